import { describe, expect, it } from 'vitest';
import { measure } from '#core/pipeline.ts';
import { loftCrown } from '../../study/foreign/loft.ts';
import { LOFT_CROWN } from '../../study/foreign/loft-crown.ts';
import { masterOf, OTHERWISE, type Written, writtenOf } from '../../study/foreign/otherwise.ts';

const made = loftCrown('crown', 'molar26', LOFT_CROWN, { seed: 6, spacing: 0.16 });
const written = writtenOf(made.scan, made.master);
const read = (w: Written) => new Map(measure('crown', w.scan, masterOf(w)).readings.map((r) => [`${r.name} ${r.zone} ${r.stat}`, r]));
const usual = read(written);

describe('the same crown written otherwise', () => {
  /** What depends on the triangles themselves: noise between two points is half of theirs, and areas end at points. */
  const ofTriangles = /^surface\.rough|\.area /;
  it.each(Object.entries(OTHERWISE))('%s', (words, change) => {
    const now = read(change(written));
    expect([...now.keys()]).toEqual([...usual.keys()]);
    const changed = [...usual].filter(([key, a]) => {
      const b = now.get(key);
      if (!b || (words.includes('in four') && ofTriangles.test(key))) return false;
      return a.value === null || b.value === null ? a.value !== b.value : Math.abs(a.value - b.value) > Math.hypot(a.U, b.U);
    });
    expect(changed.map(([key]) => key)).toEqual([]);
  });
});
