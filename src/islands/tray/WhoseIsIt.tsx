import type { ReactNode } from 'react';
import { StudentPicker } from '#components/picker/StudentPicker.tsx';

interface Props {
  readonly question: string;
  readonly more?: string;
  /** Words of the button that acts. */
  readonly act: string;
  readonly students: readonly { id: string; name: string }[];
  readonly onChoose: (student: string) => unknown;
  /** Destination of the file. */
  readonly children?: ReactNode;
}

/** Asks whose file it is. */
export function WhoseIsIt({ question, more, act, students, onChoose, children }: Props) {
  return (
    <div className="panel mb-3 flex flex-wrap items-center gap-2 p-2">
      <span>
        {question} {more}
      </span>
      <StudentPicker act={act} label={question} students={students} onChoose={onChoose} />
      <span aria-live="polite" className="text-soft">
        {children}
      </span>
    </div>
  );
}
