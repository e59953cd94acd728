import { useMemo } from 'react';
import { type Column, SortedTable } from '#components/table/SortedTable.tsx';
import type { Absence, Mark, MemberView, SittingView } from '#contract/course.ts';
import { COURSE_WORDS } from '#words/course.ts';

interface Props {
  readonly students: readonly MemberView[];
  readonly sittings: readonly SittingView[];
  readonly marks: readonly Mark[];
  readonly absences: readonly Absence[];
}
interface Row {
  readonly student: MemberView;
  readonly marks: ReadonlyMap<string, Mark>;
  readonly absent: ReadonlyMap<string, string>;
}

/** Every student's newest signed points in every sitting that has some, sorted by whatever heading is clicked. */
export function Gradebook({ students, sittings, marks, absences }: Props) {
  const rows = useMemo(
    (): Row[] =>
      students.map((student) => ({
        student,
        marks: new Map(marks.filter((m) => m.student_id === student.id).map((m) => [m.sitting_id, m])),
        absent: new Map(absences.filter((b) => b.student_id === student.id).map((b) => [b.sitting_id, b.reason])),
      })),
    [students, marks, absences],
  );
  const columns = useMemo(
    (): Column<Row>[] => [
      {
        id: 'student',
        accessorFn: (r) => r.student.name,
        header: COURSE_WORDS.columnsOf.name,
        cell: ({ row: { original: r } }) => (
          <span className="whitespace-nowrap">
            <a className="text-accent underline" href={`/trail/${r.student.id}`}>
              {r.student.name}
            </a>{' '}
            <span className="figure text-soft">{r.student.bench}</span>
          </span>
        ),
      },
      ...sittings.map(
        (s): Column<Row> => ({
          id: s.id,
          accessorFn: (r) => r.marks.get(s.id)?.total ?? undefined,
          sortUndefined: 'last',
          header: () => (
            <span className="inline-block min-w-24 max-w-36">
              {s.exercise_title}
              <br />
              <span className="figure">{s.held_on.slice(5)}</span>
            </span>
          ),
          cell: ({ row: { original: r } }) => <Cell mark={r.marks.get(s.id)} absent={r.absent.get(s.id)} sitting={s.id} />,
        }),
      ),
    ],
    [sittings],
  );
  return <SortedTable rows={rows} columns={columns} idOf={(r) => r.student.id} label={COURSE_WORDS.gradebook} />;
}

function Cell({
  mark: m,
  absent,
  sitting,
}: {
  readonly mark: Mark | undefined;
  readonly absent: string | undefined;
  readonly sitting: string;
}) {
  if (!m)
    return absent === undefined ? null : (
      <span className="text-soft" title={absent || undefined}>
        {COURSE_WORDS.absent.toLowerCase()}
      </span>
    );
  return (
    <a className={`figure hover:underline ${m.released ? '' : 'italic'} ${m.passed ? '' : 'text-bad'}`} href={`/tray/${sitting}`}>
      {m.total ?? '–'}
      {!m.passed && (
        <>
          <span className="sr-only"> {COURSE_WORDS.notPassed}</span>
          <span aria-hidden="true"> ▴</span>
        </>
      )}
    </a>
  );
}
