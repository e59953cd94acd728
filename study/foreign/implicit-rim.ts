// Family "implicit", partial covers whose margin is bevelled, as functions of place.
import { bisected } from './bisected.ts';
import type { NamedCase, Truth } from './case.ts';
import { cover, INSIDE, type Onlay, onlay, type ThreeQuarter, threeQuarter } from './implicit-cover.ts';
import { crownTruths, dropOf, type ImplicitCrown, ledgeAt, type Rim } from './implicit-crown.ts';
import { type ImplicitTooth, outside, shaft } from './implicit-tooth.ts';
import { type ImplicitWork, scansOf } from './implicit-work.ts';

const RAD = Math.PI / 180;
const AT = { facial: 0, mesial: 90, lingual: 180, distal: 270 } as const;
type Side = keyof typeof AT;

/** Width and angle of a bevel at an azimuth: from where the ledge ends to the tooth's own side. */
function bevelAt(t: ImplicitTooth, c: ImplicitCrown, { inset }: Rim, phi: number): { width: number; angle: number } {
  const far = outside(t, phi, c.over);
  const ledge = ledgeAt(c, far[0], far[1]);
  const drop = dropOf(c);
  /** How far out the tooth is filled to so much inside its side, by its own measure. */
  const reach = (z: number, inside: number): number =>
    bisected((r) => shaft(t, r * Math.sin(phi * RAD), r * Math.cos(phi * RAD), z) + inside, 0, 12);
  const out = reach(ledge - drop, 0) - reach(ledge, inset);
  return { width: Math.hypot(out, drop), angle: Math.atan2(out, drop) / RAD };
}

/** Medians over the 45° to both sides of every bevelled side's middle, and width and height of the margin there. */
function rimTruths(t: ImplicitTooth, c: ImplicitCrown, sides: readonly Side[], whole: Side): Truth[] {
  const { rim } = c;
  if (!rim) return [];
  // A side that is covered in part has its margin in part: only one covered from end to end is compared, by its middle.
  const margin = crownTruths(t, c).filter((q) => /^margin\.(width|gingiva)$/.test(q.name) && q.stat === 'median' && q.zone === whole);
  const bevels = sides.flatMap((zone): Truth[] => {
    const all = Array.from({ length: 46 }, (_, i) => bevelAt(t, c, rim, AT[zone] - 45 + 2 * i));
    const middle = (of: (b: { width: number; angle: number }) => number): number => all.map(of).sort((a, b) => a - b)[all.length >> 1];
    return [
      { name: 'bevel.width', zone, stat: 'median', value: middle((b) => b.width) },
      { name: 'bevel.angle', zone, stat: 'median', value: middle((b) => b.angle) },
    ];
  });
  return [...bevels, ...margin];
}

const THREE_QUARTERS: readonly (readonly [string, string, ThreeQuarter])[] = [
  [
    'bevel 0.5 at 45°',
    'molar17',
    {
      cover: { ...cover(0.9, 0.9, { facial: 5, mesial: 4, lingual: 5, distal: 4 }, 1, 0.3, 0.2), rim: { angle: 45, inset: 0.35 } },
      plate: 2.6,
      plateDown: 1,
      slots: [],
    },
  ],
  [
    'bevel 0.7 at 35°',
    'premolar25',
    {
      cover: { ...cover(1.1, 0.9, { facial: 6, mesial: 4, lingual: 6, distal: 4 }, 1.1, 0.25, 0.2), rim: { angle: 35, inset: 0.4 } },
      plate: 2.4,
      plateDown: 1,
      slots: [],
    },
  ],
];

const ONLAYS: readonly (readonly [string, string, Onlay])[] = [
  [
    'facial bevel 0.6 at 50°',
    'molar36',
    {
      covers: 'facial',
      cover: { ...cover(2.6, 1.1, { facial: 6, mesial: 6, lingual: 6, distal: 6 }, 1.8, 0.3, 0.3), rim: { angle: 50, inset: 0.45 } },
      split: 0.9,
      inside: { ...INSIDE, boxes: [] },
    },
  ],
  [
    'lingual bevel 0.4 at 40°',
    'molar17',
    {
      covers: 'lingual',
      cover: { ...cover(2.4, 0.9, { facial: 7, mesial: 5, lingual: 7, distal: 5 }, 1.6, 0.25, 0.3), rim: { angle: 40, inset: 0.28 } },
      split: 0.8,
      inside: { ...INSIDE, width: 2, floor: 3, half: [2.4, 2.4], boxes: [] },
    },
  ],
];

const WORKS: readonly ImplicitWork[] = [
  ...THREE_QUARTERS.map(([words, form, c]) => ({
    kind: 'partial' as const,
    name: `${form} three-quarter crown, ${words}`,
    form,
    body: (t: ImplicitTooth) => threeQuarter(t, c).body,
    truths: (t: ImplicitTooth) => rimTruths(t, c.cover, ['mesial', 'lingual', 'distal'], 'lingual'),
  })),
  ...ONLAYS.map(([words, form, c]) => ({
    kind: 'onlay' as const,
    name: `${form} onlay, ${words}`,
    form,
    body: (t: ImplicitTooth) => onlay(t, c),
    truths: (t: ImplicitTooth) => rimTruths(t, c.cover, [c.covers], c.covers),
  })),
];

export const IMPLICIT_RIMS: readonly NamedCase[] = scansOf(WORKS, 1100);
