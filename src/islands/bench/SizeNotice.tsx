import type { BenchView } from '#contract/views.ts';
import { SIZE } from '#words/size.ts';

/** Says that the scan is not as large as its master, and lets a person decide whether it is corrected. */
export function SizeNotice({ of, canCorrect, onCorrect }: SizeNoticeProps) {
  if (!of || (of.size === null && of.correctedBy === null)) return null;
  return (
    <p role="status" className="border-b border-line border-l-4 border-l-under px-3 py-2 text-[13px]">
      {of.size ? SIZE.off(of.size.percent, of.size.U) : SIZE.corrected(of.correctedBy ?? 0)}{' '}
      {canCorrect && (
        <button type="button" className="quiet" onClick={() => onCorrect(of.size !== null)}>
          {of.size ? SIZE.correct : SIZE.takeBack}
        </button>
      )}
    </p>
  );
}

interface SizeNoticeProps {
  readonly of: BenchView['measurement'];
  readonly canCorrect: boolean;
  readonly onCorrect: (correct: boolean) => void;
}
