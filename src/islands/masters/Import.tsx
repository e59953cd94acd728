import { useState } from 'react';
import { INNER } from '#contract/master-draft.ts';
import { MASTERS, NEED_WORDS } from '#words/masters.ts';

/** Form that brings an arch; afterwards its own page opens. */
export function Import({ course }: { readonly course: string }) {
  const [error, setError] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const bring = async (e: React.SyntheticEvent<HTMLFormElement>) => {
    e.preventDefault();
    const form = new FormData(e.currentTarget);
    const data = new FormData();
    for (const key of ['name', 'tooth']) data.set(key, String(form.get(key) ?? ''));
    for (const role of ['arch', 'opposing', 'bite', 'shared', ...INNER]) {
      const f = form.get(role);
      if (!(f instanceof File) || f.size === 0) continue;
      data.append('mesh', f);
      data.append('role', role);
    }
    setBusy(true);
    setError(null);
    try {
      const r = await fetch(`/api/courses/${course}/masters`, { method: 'POST', body: data });
      const answer = await r.json();
      if (!r.ok) throw new Error(answer.message);
      window.location.assign(`/masters/${answer.id}`);
    } catch (f) {
      setError((f as Error).message);
      setBusy(false);
    }
  };
  return (
    <>
      <form className="panel grid gap-3 p-4" onSubmit={(e) => void bring(e)} aria-label={MASTERS.bring}>
        <h2 className="text-base font-bold">{MASTERS.bring}</h2>
        <label className="grid gap-1">
          {MASTERS.arch}
          <input className="field py-2" type="file" name="arch" required accept=".stl,.ply,.obj,.zip,.gz" />
        </label>
        <label className="grid gap-1">
          {MASTERS.opposing}
          <input className="field py-2" type="file" name="opposing" accept=".stl,.ply,.obj,.zip,.gz" />
        </label>
        <label className="grid gap-1">
          {MASTERS.biteFile}
          <input className="field py-2" type="file" name="bite" accept=".stl,.ply,.obj,.zip,.gz" />
        </label>
        <div className="grid items-end gap-3 min-[600px]:grid-cols-[1fr_13rem]">
          <label className="grid gap-1">
            {MASTERS.name}
            <input className="field" name="name" required maxLength={120} />
          </label>
          <label className="grid gap-1">
            {MASTERS.tooth}
            <input className="field figure" name="tooth" required pattern="[1-8][1-8]" inputMode="numeric" maxLength={2} />
          </label>
        </div>
        <details>
          <summary className="cursor-pointer">{MASTERS.inside}</summary>
          <div className="mt-2 grid gap-3">
            {INNER.map((k) => (
              <label key={k} className="grid gap-1">
                {NEED_WORDS[k]}
                <input className="field py-2" type="file" name={k} accept=".stl,.ply,.obj,.zip,.gz" />
              </label>
            ))}
          </div>
        </details>
        {error && (
          <p role="alert" className="border-l-4 border-bad pl-2">
            {error}
          </p>
        )}
        <button type="submit" className="act w-fit" disabled={busy}>
          {busy ? MASTERS.reading : MASTERS.bring}
        </button>
      </form>
      <form className="panel flex flex-wrap items-end gap-3 p-4" onSubmit={(e) => void bring(e)} aria-label={MASTERS.shared}>
        <label className="grid flex-1 gap-1">
          {MASTERS.sharedFile}
          <input className="field py-2" type="file" name="shared" required accept=".zip" />
        </label>
        <button type="submit" className="act w-fit" disabled={busy}>
          {busy ? MASTERS.reading : MASTERS.shared}
        </button>
      </form>
    </>
  );
}
