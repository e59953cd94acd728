import { useEffect, useState } from 'react';
import { call } from '#components/call.ts';
import { Modal } from '#components/dialog/Modal.tsx';
import { Problem } from '#components/Problem.tsx';
import type { CourseView, SittingPeople, SittingView } from '#contract/course.ts';
import { COURSE_WORDS } from '#words/course.ts';

interface Props {
  readonly view: CourseView;
  readonly sitting: SittingView;
  readonly onDone: (said: string) => void;
  readonly onClose: () => void;
}

/** Who grades a sitting, where everybody sits that day, and who was not there. */
export function SittingWho({ view, sitting, onDone, onClose }: Props) {
  const [now, setNow] = useState<SittingPeople | null>(null);
  const [error, setError] = useState<string | null>(null);
  const address = `/api/sittings/${sitting.id}/people`;
  useEffect(() => {
    call<SittingPeople>(address).then(setNow, (e) => setError((e as Error).message));
  }, [address]);
  const staff = [...new Map(view.people.filter((p) => p.role === 'director' || p.role === 'instructor').map((p) => [p.id, p])).values()];
  const students = view.people.filter((p) => p.role === 'student');
  const keep = async () => {
    if (!now) return;
    setError(null);
    try {
      await call(address, now);
      onDone(COURSE_WORDS.done);
      onClose();
    } catch (e) {
      setError((e as Error).message);
    }
  };
  return (
    <Modal label={`${COURSE_WORDS.who}: ${sitting.exercise_title}, ${sitting.title}`} onClose={onClose} wide>
      <h2 className="mb-3 text-base font-bold">{`${COURSE_WORDS.who}: ${sitting.exercise_title}, ${sitting.title}`}</h2>
      <Problem text={error} />
      {now && (
        <div className="grid gap-4">
          <fieldset className="flex flex-wrap gap-x-4 gap-y-1">
            <legend className="font-semibold">{COURSE_WORDS.graders}</legend>
            {staff.map((p) => (
              <label key={p.id} className="flex min-h-8 items-center gap-2">
                <input
                  type="checkbox"
                  className="size-4"
                  checked={now.graders.includes(p.id)}
                  onChange={(e) =>
                    setNow({ ...now, graders: e.target.checked ? [...now.graders, p.id] : now.graders.filter((g) => g !== p.id) })
                  }
                />
                {p.name}
              </label>
            ))}
          </fieldset>
          <p className="text-soft">{COURSE_WORDS.gradersNone}</p>
          <section className="max-h-[45vh] overflow-y-auto" aria-label={COURSE_WORDS.students}>
            <table className="w-full">
              <thead>
                <tr className="text-left text-soft">
                  <th className="pb-1 font-normal">{COURSE_WORDS.people}</th>
                  <th className="pb-1 font-normal">{COURSE_WORDS.benchToday}</th>
                  <th className="pb-1 font-normal">{COURSE_WORDS.absent}</th>
                </tr>
              </thead>
              <tbody>
                {students.map((p) => {
                  const seat = now.seats.find((s) => s.person === p.id);
                  const away = now.absences.find((b) => b.person === p.id);
                  const rest = {
                    seats: now.seats.filter((s) => s.person !== p.id),
                    absences: now.absences.filter((b) => b.person !== p.id),
                  };
                  return (
                    <tr key={p.id} className="border-t border-line">
                      <td className="py-1 pr-2">{p.name}</td>
                      <td className="py-1 pr-2">
                        <input
                          className="field figure !min-h-8 !w-20"
                          aria-label={`${COURSE_WORDS.benchToday}, ${p.name}`}
                          placeholder={p.bench ?? '–'}
                          maxLength={12}
                          value={seat?.bench ?? ''}
                          onChange={(e) =>
                            setNow({
                              ...now,
                              seats: e.target.value.trim() ? [...rest.seats, { person: p.id, bench: e.target.value }] : rest.seats,
                            })
                          }
                        />
                      </td>
                      <td className="flex min-h-10 items-center gap-2 py-1">
                        <input
                          type="checkbox"
                          className="size-4"
                          aria-label={`${COURSE_WORDS.absent}, ${p.name}`}
                          checked={away !== undefined}
                          onChange={(e) =>
                            setNow({
                              ...now,
                              absences: e.target.checked ? [...rest.absences, { person: p.id, reason: '' }] : rest.absences,
                            })
                          }
                        />
                        {away && (
                          <input
                            className="field !min-h-8 flex-1"
                            aria-label={`${COURSE_WORDS.reason}, ${p.name}`}
                            placeholder={COURSE_WORDS.reason}
                            maxLength={120}
                            value={away.reason}
                            onChange={(e) => setNow({ ...now, absences: [...rest.absences, { person: p.id, reason: e.target.value }] })}
                          />
                        )}
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          </section>
          <div className="flex gap-2">
            <button type="button" className="act" onClick={() => void keep()}>
              {COURSE_WORDS.save}
            </button>
            <button type="button" className="quiet" onClick={onClose}>
              {COURSE_WORDS.cancel}
            </button>
          </div>
        </div>
      )}
    </Modal>
  );
}
