import { VERDICT_WORDS } from '#words/states.ts';

export type VerdictName = keyof typeof VERDICT_WORDS | 'critical';

/** Verdict by shape: filled dot, half dot, triangle, square with a bar, open ring. The word goes with it. */
export function VerdictMark({ verdict, word = true }: { verdict: VerdictName; word?: boolean }) {
  const text = verdict === 'critical' ? 'critical' : VERDICT_WORDS[verdict];
  return (
    <span className="inline-flex items-center gap-1.5 whitespace-nowrap">
      <svg width="14" height="14" viewBox="0 0 14 14" role="img" aria-label={word ? undefined : text} aria-hidden={word || undefined}>
        {verdict === 'inside' && <circle cx="7" cy="7" r="5" className="fill-good" />}
        {verdict === 'close' && (
          <>
            <circle cx="7" cy="7" r="4.5" className="fill-none stroke-ink" strokeWidth="1.2" />
            <path d="M7 2.5a4.5 4.5 0 0 1 0 9z" className="fill-ink" />
          </>
        )}
        {verdict === 'outside' && <path d="M7 1.5 13 12H1z" className="fill-under" />}
        {verdict === 'critical' && (
          <>
            <rect x="1.5" y="1.5" width="11" height="11" className="fill-bad" />
            <rect x="3.5" y="6" width="7" height="2" fill="#fff" />
          </>
        )}
        {verdict === 'none' && <circle cx="7" cy="7" r="4.5" className="fill-none stroke-soft" strokeDasharray="2 2" />}
      </svg>
      {word && <span>{text}</span>}
    </span>
  );
}
