import type { Solid } from '../anatomy/tessellate.ts';
import { cavityParts } from './cavity/cavity.ts';
import { loftSolid } from './cavity/loft.ts';
import type { CavityRecipe } from './cavity/recipe.ts';
import { envelopeOf } from './crown/envelope.ts';
import { onlayParts } from './onlay/onlay.ts';
import { grooveSolid, incisalSolid, partialParts } from './partial/partial.ts';
import { preformedParts } from './preformed/preformed.ts';
import type { Preparation } from './preparation.ts';
import { between, halfSpace, shaft } from './rings.ts';
import type { Body, SolidKernel } from './solids.ts';
import type { Typodont } from './typodont.ts';

/**
 * The body of a tooth after its preparation; `made` puts a cutter where the tooth stands, `keep` notes what has to be let go
 * afterwards, `turns` is the number of profiles that a crown's cut is put together of.
 */
export function shapedBody(
  kernel: SolidKernel,
  typodont: Typodont,
  body: Body,
  p: Preparation,
  keep: (b: Body) => Body,
  made: (s: Solid) => Body,
  turns?: number,
  hollows: (c: CavityRecipe) => readonly Body[] = (c) => hollowsOf(kernel, typodont, c, keep, made),
): Body {
  // Cutters are put together before the tooth is cut once: every operation on the tooth itself costs as much as all of them.
  const without = (from: Body, cutters: readonly Body[]): Body => keep(from.subtract(keep(kernel.union(cutters))));
  const top = typodont.target.plan.height + 3;
  switch (p.kind) {
    case 'crown':
      return keep(body.intersect(made(envelopeOf(typodont, p).solid(turns))));
    case 'cavity':
      return without(body, hollows(p));
    case 'onlay': {
      const { envelope, splitY, sign } = onlayParts(typodont, p);
      const outside = keep(
        made(halfSpace(splitY, sign)).subtract(made(p.shoulder === false ? envelope.topSolid(turns) : envelope.solid(turns))),
      );
      return without(body, [outside, ...hollows({ ...p.inside, kind: 'cavity' })]);
    }
    case 'partial': {
      const parts = partialParts(typodont, p);
      const { envelope, plateY, grooves, pin } = parts;
      const along = incisalSolid(parts, p);
      const plate = keep(made(halfSpace(plateY, 1)).intersect(made(envelope.topSolid(turns))));
      const stump = keep(body.intersect(keep(plate.add(made(envelope.solid(turns))))));
      const cutters = [
        ...grooves.map((g) => grooveSolid(g, top)),
        ...(along ? [along] : []),
        ...(pin
          ? [shaft(pin.x, pin.y, (p.pin?.ledge ?? 1) * Math.SQRT1_2, pin.ledge, top, 4), shaft(pin.x, pin.y, pin.radius, pin.bottom, top)]
          : []),
      ];
      return cutters.length ? without(stump, cutters.map(made)) : stump;
    }
    case 'preformed': {
      const { envelope, slices } = preformedParts(typodont, p);
      const lowered = keep(body.intersect(made(envelope.topSolid(turns))));
      return without(
        lowered,
        slices.map((s) => made(s.solid)),
      );
    }
  }
}

/** The bodies whose union a hollow is. */
export function hollowsOf(
  kernel: SolidKernel,
  typodont: Typodont,
  c: CavityRecipe,
  keep: (b: Body) => Body,
  made: (s: Solid) => Body,
): Body[] {
  const parts = cavityParts(typodont, c);
  const lofts = [...(parts.occlusal ? [parts.occlusal] : []), ...parts.boxes.map((b) => b.loft)];
  const cutters = [...lofts.map(loftSolid), ...parts.bevels].map(made);
  return c.shell ? [keep(keep(kernel.union(cutters)).intersect(made(within(typodont, c.shell))))] : cutters;
}

/** Everything further than so many mm from the widest places of a tooth's mesial and distal sides. */
function within(t: Typodont, shell: number): Solid {
  const top = t.target.plan.height + 4;
  const reach = (phi: number): number => {
    let most = 0;
    for (let z = 0; z < t.target.plan.height; z += SOUNDED) most = Math.max(most, t.target.side(phi, z));
    return most - shell;
  };
  const [mesial, distal] = [reach(Math.PI / 2), -reach(-Math.PI / 2)];
  return between([-9, top], (z) => [
    [distal, -15, z],
    [mesial, -15, z],
    [mesial, 15, z],
    [distal, 15, z],
  ]);
}
const SOUNDED = 0.1;
