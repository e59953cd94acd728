import { DropdownMenu } from 'radix-ui';
import { memo, useState } from 'react';
import { StudentPicker } from '#components/picker/StudentPicker.tsx';
import { VerdictMark } from '#components/Verdict.tsx';
import type { TrayRow } from '#contract/tray-view.ts';
import { STEPS } from '#core/catalogue/terms.ts';
import { STAGE_WORDS, STATE_WORDS } from '#words/states.ts';
import { TRAY } from '#words/tray.ts';

/** One attempt of the table: whose, how far, how it stands, and what can be done next. */
export const TrayLine = memo(function TrayLine({
  row: r,
  students,
  grades,
  steer,
  onRemove,
  list,
  isFirst,
  chosen,
  onChoose,
}: {
  row: TrayRow;
  students: readonly { id: string; name: string }[];
  grades: boolean;
  steer: (id: number, what: string, payload?: unknown) => Promise<boolean>;
  onRemove: (row: TrayRow) => void;
  /** The list's query, which the Bench goes on in. */
  list: string;
  /** The page's first link leads here. */
  isFirst: boolean;
  chosen: boolean;
  onChoose: (attempt: number) => void;
}) {
  const problem = r.state === 'failed' || r.state === 'cancelled';
  // A fault of the file's own stays what it is, however often the file is read.
  const isHopeless = r.fault_code?.startsWith('scan.') ?? false;
  const [moving, setMoving] = useState(false);
  return (
    <tr className="border-b border-line last:border-0 hover:bg-wash/60" data-scan={r.scan_id} data-state={r.word}>
      {grades && (
        <td className="pl-2">
          {r.attempt_id !== null && (
            <input
              type="checkbox"
              className="size-4 accent-accent"
              aria-label={`Choose ${r.student_name}`}
              checked={chosen}
              onChange={() => r.attempt_id !== null && onChoose(r.attempt_id)}
            />
          )}
        </td>
      )}
      <td className="px-2 py-1 max-sm:hidden">
        {r.picture && r.attempt_id !== null ? (
          <img
            src={`/api/attempts/${r.attempt_id}/picture?v=${r.picture.slice(0, 12)}`}
            alt={`Preparation of ${r.student_name}, seen from occlusal`}
            width={72}
            height={54}
            className="rounded-sm"
          />
        ) : (
          <div className="h-[54px] w-[72px] rounded-sm bg-ground" aria-hidden />
        )}
      </td>
      <td className="px-2 py-1">
        {r.student_name ? (
          <>
            <div className="font-semibold">{r.student_name}</div>
            {moving && (
              <StudentPicker
                className="my-1"
                act={TRAY.give}
                label={TRAY.whose(r.file_name)}
                students={students.filter((s) => s.id !== r.student_id)}
                onChoose={(student) => steer(r.scan_id, 'assign', { student }).then((done) => done && setMoving(false))}
              />
            )}
            <div className="figure text-soft">
              {r.student_id} {r.bench}
              {(r.number ?? 1) > 1 && ` attempt ${r.number}`}
              {r.version > 1 && ` scan ${r.version}`}
              {r.step !== 'final' && <span className="font-sans"> {STEPS[r.step]}</span>}
            </div>
          </>
        ) : (
          <div>
            <div className="figure">{r.file_name}</div>
            <StudentPicker
              className="mt-1"
              act={TRAY.give}
              label={TRAY.whose(r.file_name)}
              students={students}
              onChoose={(student) => steer(r.scan_id, 'assign', { student })}
            />
          </div>
        )}
      </td>
      <td className="px-2 py-1 max-sm:hidden">{r.grader_name ?? <span className="text-soft">–</span>}</td>
      <td className="max-w-[420px] px-2 py-1">
        {r.state === 'measuring' ? (
          <div>
            <div>{STAGE_WORDS[r.progress?.stage ?? ''] ?? 'measuring'}…</div>
            <progress className="h-2.5 w-40" value={r.progress?.share ?? 0} max={1} aria-label={`Progress of ${r.file_name}`} />
          </div>
        ) : (
          <div className={problem ? 'text-bad' : ''}>{STATE_WORDS[r.word] ?? r.word}</div>
        )}
        {r.fault && problem && (
          <div className="text-sm">
            <span className="figure">{r.file_name}</span>: {r.fault}
            {isHopeless && ` ${TRAY.cannotHelp}`}
          </div>
        )}
      </td>
      <td className="px-2 py-1">
        {r.counts && (
          <span className="flex flex-wrap gap-3">
            {(['inside', 'close', 'outside'] as const).map(
              (v) =>
                r.counts &&
                r.counts[v] > 0 && (
                  <span key={v} className="flex items-center gap-1">
                    <VerdictMark verdict={v} word={false} />
                    <span className="figure">{r.counts[v]}</span>
                  </span>
                ),
            )}
            {r.critical > 0 && <VerdictMark verdict="critical" />}
          </span>
        )}
      </td>
      <td className="figure px-2 py-1 text-right text-base">
        {r.grade_total ?? <span className="text-soft">{r.total ?? (r.range ? `${r.range[0]}–${r.range[1]}` : '')}</span>}
        {r.changed && <div className="font-sans text-[12px] text-bad">changed since</div>}
        {(r.grade_total === null ? r.failures.length > 0 : r.grade_passed === false) && (
          <div className="ml-auto max-w-[160px] font-sans text-[12px] text-bad">
            not passed{r.failures[0] ? `: ${r.failures[0].toLowerCase()}` : ''}
          </div>
        )}
      </td>
      <td className="px-2 py-1 text-right">
        {(r.state === 'measured' || r.state === 'no-scan') && grades && r.attempt_id !== null && (
          <a
            id={isFirst ? 'first-attempt' : undefined}
            className={`${r.grade_total === null ? 'act' : 'quiet'} inline-flex items-center`}
            href={`/bench/${r.attempt_id}${list}`}
          >
            {r.grade_total !== null ? 'Open' : r.step === 'final' ? 'Grade' : 'Look'}
          </a>
        )}
        {(r.state === 'measuring' || r.state === 'arrived') && r.attempt_id !== null && (
          <button type="button" className="quiet" onClick={() => steer(r.scan_id, 'cancel')}>
            Cancel
          </button>
        )}
        {problem && (
          <span className="flex justify-end gap-2">
            {grades && r.attempt_id !== null && (
              <a className="quiet inline-flex items-center" href={`/bench/${r.attempt_id}${list}`}>
                {r.grade_total === null ? 'Grade by hand' : 'Open'}
              </a>
            )}
            {r.fault_code?.startsWith('align.') && (
              <a className="act inline-flex items-center" href={`/align/${r.scan_id}`}>
                Align by three points
              </a>
            )}
            {isHopeless ? null : (
              <button type="button" className="quiet" onClick={() => steer(r.scan_id, 'retry')}>
                Try again
              </button>
            )}
          </span>
        )}
        {r.state !== 'no-scan' && r.grade_total === null && (
          <DropdownMenu.Root modal={false}>
            <DropdownMenu.Trigger className="quiet ml-1 !px-2" aria-label={TRAY.more(r.student_name ?? r.file_name)}>
              ⋯
            </DropdownMenu.Trigger>
            <DropdownMenu.Portal>
              <DropdownMenu.Content className="panel z-20 p-1 shadow-lg" align="end" sideOffset={2}>
                {r.student_name && (
                  <DropdownMenu.Item
                    className="cursor-pointer rounded-sm px-3 py-2 data-[highlighted]:bg-wash"
                    onSelect={() => setMoving(true)}
                  >
                    {TRAY.someoneElse}
                  </DropdownMenu.Item>
                )}
                <DropdownMenu.Item className="cursor-pointer rounded-sm px-3 py-2 data-[highlighted]:bg-wash" onSelect={() => onRemove(r)}>
                  {TRAY.takeOut}
                </DropdownMenu.Item>
              </DropdownMenu.Content>
            </DropdownMenu.Portal>
          </DropdownMenu.Root>
        )}
      </td>
    </tr>
  );
});
