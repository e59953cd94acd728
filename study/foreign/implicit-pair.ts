// Family "implicit", two crowns in one arch that are to share a path: the second is tipped as a whole, by a known angle.
import { PART } from '#core/master/master.ts';
import { type NamedCase, usualAndCoarse } from './case.ts';
import { implicitScene } from './implicit.ts';
import { crown, crownTruths, type ImplicitCrown, prepared, sides, wallOf } from './implicit-crown.ts';
import { type Body, roundedBoth, roundedEither } from './implicit-mesh.ts';
import { besideOf, gum, IMPLICIT_TEETH, type ImplicitTooth, landmarks, neighbours, STAGGER, top, uncut } from './implicit-tooth.ts';
import { foreignMaster, type Sheet, scanOf } from './scanner.ts';

const RAD = Math.PI / 180;

/** Height over the gingiva about which a stump is tipped. */
const PIVOT = 2;

interface Tip {
  readonly degrees: number;
  readonly to: 'facial' | 'mesial';
}

/** A crown whose stump is tipped out of its tooth's axis; its ledge stays where it is. In the tooth's own place, the gum `at` its height. */
function tipped(t: ImplicitTooth, c: ImplicitCrown, { degrees, to }: Tip, at: Body): Body {
  const [wall, own] = [wallOf(t, c), uncut(t)];
  const [sine, cosine] = [Math.sin(degrees * RAD), Math.cos(degrees * RAD)];
  const turned: Body = (x, y, z) => {
    const along = to === 'facial' ? y : x;
    const u = cosine * along - sine * (z - PIVOT);
    const w = PIVOT + sine * along + cosine * (z - PIVOT);
    return to === 'facial' ? wall(x, u, w) : wall(u, y, w);
  };
  return (x, y, z) => {
    const stump = roundedBoth(turned(x, y, z), 0.8 * (z - top(t, x, y) + c.down), c.edge);
    return Math.max(own(x, y, z), roundedEither(stump, at(x, y, z) - c.over, c.fillet));
  };
}

/** The same arch with its mesial neighbour for its target. */
const relabelled = (sheet: Sheet): Sheet => {
  const to: Readonly<Record<number, number>> = { [PART.mesial]: PART.target, [PART.target]: PART.distal, [PART.distal]: PART.other };
  return { ...sheet, parts: sheet.parts.map((p) => to[p] ?? p) };
};

const PAIRS: readonly (readonly [string, ImplicitCrown, ImplicitCrown, Tip])[] = [
  [
    'apart by 5° to facial',
    crown(0.6, sides(0.8), sides(6), 1.4, 0.2, 0.3),
    crown(0.6, sides(0.6), sides(8), 1.3, 0.3, 0.2),
    { degrees: 5, to: 'facial' },
  ],
  [
    'apart by 9° along the arch',
    crown(0.5, sides(0.9), sides(10), 1.5, 0.3, 0.4),
    crown(0.6, sides(0.7), sides(10), 1.4, 0.25, 0.3),
    { degrees: 9, to: 'mesial' },
  ],
  [
    'on one path',
    crown(0.7, sides(0.6), sides(5), 1.3, 0.25, 0.2),
    crown(0.6, sides(0.8), sides(7), 1.4, 0.2, 0.3),
    { degrees: 0, to: 'facial' },
  ],
];

/** Every pair with usual noise, and once more coarser with noise that neighbouring points share. */
export const IMPLICIT_PAIRS: readonly NamedCase[] = PAIRS.flatMap(([words, first, second, tip], i) =>
  usualAndCoarse(`two crowns ${words}`, 1060 + 2 * i, 0.2, (more) => {
    const t: ImplicitTooth = { ...IMPLICIT_TEETH.molar36, tooth: '37' };
    const { n, apart } = besideOf(t, 1);
    const beside: ImplicitTooth = { ...n, tooth: '36' };
    const { options, scene } = implicitScene(t, more);
    const arch = scene(uncut(t), 0.14, { mesial: neighbours(t).mesial });
    const master = foreignMaster('Implicit second abutment', t.tooth, arch, landmarks(t));
    const shifted: Body = (x, y, z) => gum(x + apart, y - STAGGER, z);
    const other = foreignMaster('Implicit first abutment', beside.tooth, relabelled(arch), landmarks(beside, [apart, -STAGGER]));
    const cut = tipped(beside, second, tip, shifted);
    const both = scene(prepared(t, first), options.spacing, { mesial: (x, y, z) => cut(x - apart, y + STAGGER, z) });
    const { scan, pose } = scanOf(t.tooth, both, options);
    const truths = () => [
      ...crownTruths(t, first).filter((q) => q.name !== 'neighbour.mesial'),
      { name: 'abutments.parallel', zone: null, stat: 'value', value: tip.degrees },
    ];
    return { family: 'implicit', kind: 'crown', master, scan, pose, truths, size: 1, abutment: { kind: 'crown', master: other } };
  }),
);
