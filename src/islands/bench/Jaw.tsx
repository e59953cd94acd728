import { Glide } from '#components/Glide.tsx';
import type { DisplayHeader } from '#contract/display.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import { excursionShift, type Glided } from '#core/occlusion/excursion.ts';
import { BENCH } from '#words/bench.ts';

export const CLOSED: Glided = { which: 'protrusive', share: 0 };

/** mm by which the opposing arch is moved, in the display frame. */
export function jawShift(header: Pick<DisplayHeader, 'jaw' | 'mesialSign'>, { which, share }: Glided): Vec3 | null {
  if (!header.jaw || share === 0) return null;
  const [x, y, z] = excursionShift(header.jaw, which, share, header.jaw.conditions);
  return [header.mesialSign * x, y, z];
}

interface Props {
  readonly jaw: NonNullable<DisplayHeader['jaw']>;
  readonly glided: Glided;
  readonly onGlide: (g: Glided) => void;
}

/** Glides the opposing arch along an excursion, so that its clearance is seen all the way. Small, and low in the picture: the gap between the arches must not be covered. */
export const Jaw = ({ jaw, glided, onGlide }: Props) => (
  <section className="panel grid gap-1 p-2 text-sm [&_.quiet]:!min-h-0 [&_.quiet]:!px-2 [&_.quiet]:!py-1" aria-label={BENCH.jaw}>
    <Glide glided={glided} path_mm={jaw.conditions.path_mm} onGlide={onGlide} />
  </section>
);
