/** A list for choosing one student; it acts at once and then resets. */
export function StudentChoice({
  students,
  label,
  className,
  onChoose,
}: {
  students: readonly { id: string; name: string }[];
  label?: string;
  className: string;
  onChoose: (student: string) => unknown;
}) {
  return (
    <select className={`field ${className}`} aria-label={label} value="" onChange={(e) => e.target.value && onChoose(e.target.value)}>
      <option value="">Choose the student…</option>
      {students.map((s) => (
        <option key={s.id} value={s.id}>
          {s.name} {s.id}
        </option>
      ))}
    </select>
  );
}
