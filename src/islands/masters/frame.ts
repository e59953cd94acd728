import type { Marks } from '#contract/master-draft.ts';
import { add, scale, type Vec3 } from '#core/linalg/vec.ts';
import { excursionShift, type Glided, standingOf, USUAL_CONDITIONS } from '#core/occlusion/excursion.ts';

export interface ToothFrame {
  readonly at: Vec3;
  readonly axis: Vec3;
  readonly mesial: Vec3;
  readonly facial: Vec3;
}

/** The tooth's directions from the middle of its gingival margin; null before that is marked. */
export function frameOf(m: Marks): ToothFrame | null {
  const l = m.gingivalMargin;
  if (l.length === 0) return null;
  const at = [0, 1, 2].map((k) => l.reduce((s, p) => s + p[k], 0) / l.length) as [number, number, number];
  return { at, axis: m.axis, mesial: m.mesial, facial: m.facial };
}

/** The opposing arch's move in the arch's own frame. */
export function shiftOf(tooth: string, f: ToothFrame, moved: Glided, conditions: Marks['conditions']): Vec3 {
  const s = excursionShift(standingOf(tooth), moved.which, moved.share, conditions ?? USUAL_CONDITIONS);
  return add(add(scale(f.mesial, s[0]), scale(f.facial, s[1])), scale(f.axis, s[2]));
}
