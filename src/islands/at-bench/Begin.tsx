import { useState } from 'react';
import { call } from '#components/call.ts';
import { Problem } from '#components/Problem.tsx';
import { AT_BENCH } from '#words/at-bench.ts';

/** Begins a sitting at the bench and opens its card. */
export function Begin({ sitting }: { readonly sitting: string }) {
  const [error, setError] = useState<string | null>(null);
  return (
    <>
      <button
        type="button"
        className="quiet !min-h-11"
        onClick={() =>
          call<{ attempt: number }>(`/api/sittings/${encodeURIComponent(sitting)}/begin`, {}).then(
            ({ attempt }) => window.location.assign(`/work/${attempt}/bench`),
            (e) => setError((e as Error).message),
          )
        }
      >
        {AT_BENCH.beginSitting}
      </button>
      <Problem text={error} />
    </>
  );
}
