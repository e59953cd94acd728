import type { DraftView } from '#contract/master-draft.ts';
import { asUnit, checkWords, MASTERS } from '#words/masters.ts';

const BORDER = { fine: 'text-soft', look: 'border-l-4 border-under pl-2', stop: 'border-l-4 border-bad pl-2' } as const;

interface Props {
  readonly checks: DraftView['checks'];
  readonly busy: boolean;
  readonly onUnit: (factor: number) => void;
}

/** What was found in the file, with the way out of each. */
export function Found({ checks, busy, onUnit }: Props) {
  const unit = checks.find((c) => c.what === 'unit' && c.state === 'stop');
  return (
    <section className="panel p-3" aria-label={MASTERS.foundInFile}>
      <ul className="grid gap-1">
        {checks.map((c) => (
          <li key={c.what} className={BORDER[c.state]}>
            {checkWords(c)}
          </li>
        ))}
      </ul>
      {unit?.factors?.map((f) => (
        <button key={f} type="button" className="act mt-2 mr-2" disabled={busy} onClick={() => onUnit(f)}>
          {asUnit(f, unit.figure)}
        </button>
      ))}
    </section>
  );
}
