import { useState } from 'react';

interface Props {
  readonly count: number;
  readonly graders: readonly { id: string; name: string }[];
  readonly onShare: (graders: readonly string[]) => void;
  readonly onDrop: () => void;
}

/** Chosen attempts go to one grader, or in turn to several. */
export function Share({ count, graders, onShare, onDrop }: Props) {
  const [to, setTo] = useState<ReadonlySet<string>>(new Set());
  const turn = (id: string): void =>
    setTo((now) => {
      const next = new Set(now);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  return (
    <fieldset className="panel mb-2 flex flex-wrap items-center gap-2 p-2" aria-label="Share out">
      <span>
        <span className="figure">{count}</span> chosen, for
      </span>
      {graders.map((g) => (
        <button key={g.id} type="button" className="quiet" aria-pressed={to.has(g.id)} onClick={() => turn(g.id)}>
          {g.name}
        </button>
      ))}
      <button type="button" className="act" disabled={to.size === 0} onClick={() => onShare([...to])}>
        {to.size > 1 ? `Share out among ${to.size}` : 'Give'}
      </button>
      <button type="button" className="quiet" onClick={() => onShare([])}>
        Give to nobody
      </button>
      <button type="button" className="quiet ml-auto" onClick={onDrop}>
        Choose none
      </button>
    </fieldset>
  );
}
