import { useEffect, useRef, useState } from 'react';
import { TRAY } from '#words/tray.ts';
import { timeLeft } from './state.ts';

/** How many scans are still to be measured, and how long that takes by what was seen so far. */
export function Progress({ left }: { left: number }) {
  const seen = useRef<{ at: number; left: number }[]>([]);
  const [most, setMost] = useState(left);
  useEffect(() => {
    if (left === 0) {
      seen.current = [];
      setMost(0);
      return;
    }
    setMost((m) => Math.max(m, left));
    // More work came in: the rate is looked at from here on.
    if (left > (seen.current.at(-1)?.left ?? left)) seen.current = [];
    if (seen.current.at(-1)?.left !== left) seen.current.push({ at: performance.now() / 1000, left });
  }, [left]);
  if (left === 0) return null;
  const words = TRAY.measuring(left, TRAY.timeLeft(timeLeft(seen.current)));
  return (
    <p className="mb-2 flex items-center gap-3 text-soft">
      <progress className="h-2.5 w-40" value={most - left} max={Math.max(1, most)} aria-label={words} /> {words}
    </p>
  );
}
