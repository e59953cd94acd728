import type { Guide } from './guide.ts';
import type { PlannedStep } from './plan.ts';

type Point = readonly [x: number, y: number];

const SIDE: Readonly<Record<string, Point>> = { facial: [0, 1], mesial: [1, 0], lingual: [0, -1], distal: [-1, 0] };

/** How far out on the tooth a number of a side stands, as a share of its outline there. */
const ON_SIDE = 0.93;

function onSide(guide: Guide, side: string, share = ON_SIDE): Point[] {
  const d = SIDE[side];
  if (!d) return [];
  const best = guide.outline.reduce((a, b) => (b[0] * d[0] + b[1] * d[1] > a[0] * d[0] + a[1] * d[1] ? b : a));
  const r = Math.hypot(...best) * share;
  return [[d[0] * r, d[1] * r]];
}

/**
 * Where a step cuts, seen from above: at the cusps or in the grooves for its depth cuts, at the sides that it works on.
 * @units mm
 * @frame tooth, from above
 */
export function placesOf(step: Pick<PlannedStep, 'id' | 'duty'>, guide: Guide, onRidges: boolean): Point[] {
  const cusps = guide.cusps.map((c) => c.at);
  const middles = guide.grooves.flatMap((g) => (g.length ? [g[Math.floor(g.length / 2)]] : []));
  const functional = guide.cusps.filter((c) => c.role === 'functional').map((c): Point => [c.at[0] * 1.25, c.at[1] * 1.25]);
  switch (step.id) {
    case 'depth-cuts':
      return onRidges || !middles.length ? cusps : middles;
    case 'functional-bevel':
      return functional;
    case 'occlusal':
    case 'incisal':
    case 'cover':
      return cusps.length
        ? [[cusps.reduce((s, p) => s + p[0], 0) / cusps.length, cusps.reduce((s, p) => s + p[1], 0) / cusps.length]]
        : [[0, 0]];
    case 'outline':
    case 'even-depth':
      return middles.slice(0, 1);
    case 'contacts':
    case 'slices':
    case 'ridge-stop':
    case 'grooves':
      return [...onSide(guide, 'mesial'), ...onSide(guide, 'distal')];
    case 'box-shell':
    case 'box-open':
      return onSide(guide, 'mesial', 0.85);
    case 'axial':
      return [...onSide(guide, 'facial'), ...onSide(guide, 'lingual')];
    case 'facial-planes':
      return onSide(guide, 'facial');
    case 'lingual-wall':
    case 'lingual-fossa':
    case 'pinhole':
      return onSide(guide, 'lingual', step.id === 'lingual-wall' ? ON_SIDE : 0.5);
    case 'margin': {
      const [x, y] = guide.outline[Math.floor(guide.outline.length / 8)] ?? [0, 0];
      return [[x, y]];
    }
    default:
      return [];
  }
}
