// Family "implicit", crowns of posterior teeth: each alone, and two that share one path.
import { type NamedCase, usualAndCoarse } from './case.ts';
import { archOf, implicitScene } from './implicit.ts';
import { crown, crownTruths, type ImplicitCrown, prepared, sides } from './implicit-crown.ts';
import { IMPLICIT_TEETH, landmarks, tipsBeside } from './implicit-tooth.ts';
import { inclineTruths, rowTruths } from './occlusal-truths.ts';
import { foreignMaster, scanOf } from './scanner.ts';

const CROWNS: readonly (readonly [string, string, ImplicitCrown])[] = [
  ['shoulder', 'molar36', crown(0.5, sides(0.9), sides(6), 1.5, 0.1, 0.3)],
  ['chamfer, sharp edge', 'molar17', crown(0.6, sides(0.5), sides(5, 4, 7), 1.2, 0.4, 0.05)],
  ['deep chamfer, tipped to lingual', 'premolar25', crown(0.4, sides(1, 0.7, 0.6), sides(12, 5, 2), 1.6, 0.5, 0.5)],
  ['knife-near, tapered', 'molar36', crown(0.8, sides(0.35), sides(12, 9, 10, 12), 1.1, 0.25, 0.6)],
  ['wide shoulder, round edge', 'molar17', crown(0.3, sides(1.3, 1, 1.1), sides(4, 3, 5), 2, 0.2, 0.8)],
  ['uneven', 'premolar25', crown(0.7, sides(1.1, 0.5, 0.5, 0.8), sides(7, 3, 6, 9), 1.4, 0.3, 0.2)],
];

/** Every crown with usual noise, and once more coarser with noise that neighbouring points share. */
export const IMPLICIT_CROWNS: readonly NamedCase[] = CROWNS.flatMap(([words, form, cut], i) =>
  usualAndCoarse(`${form} crown, ${words}`, 950 + 2 * i, 0.2, (more) => {
    const t = IMPLICIT_TEETH[form];
    const { options, scene } = implicitScene(t, more);
    const marks = { ...landmarks(t), neighbourCusps: tipsBeside(t) };
    const master = foreignMaster(`Implicit ${form}`, t.tooth, archOf(t), marks);
    const { scan, pose } = scanOf(t.tooth, scene(prepared(t, cut), options.spacing), options);
    return {
      family: 'implicit',
      kind: 'crown',
      master,
      scan,
      pose,
      truths: [...crownTruths(t, cut), ...rowTruths(t, cut), ...inclineTruths(t, cut)],
      size: 1,
    };
  }),
);
