import type { Guide } from './guide.ts';
import type { Plan, PlannedStep } from './plan.ts';

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
export function placesOf(step: Pick<PlannedStep, 'id' | 'duty'>, guide: Guide, plan: Pick<Plan, 'boxes' | 'choices'>): Point[] {
  const onRidges = plan.choices.depthCuts === 'on the ridges';
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
    case 'even-depth': {
      const central = guide.grooves.reduce<(typeof guide.grooves)[number]>((a, b) => (b.length > a.length ? b : a), []);
      const at = central[Math.floor(central.length * (step.id === 'outline' ? 0.3 : 0.65))];
      return at ? [at] : [];
    }
    case 'contacts':
    case 'slices':
    case 'ridge-stop':
    case 'grooves':
      return [...onSide(guide, 'mesial'), ...onSide(guide, 'distal')];
    case 'box-shell':
    case 'box-open':
      return plan.boxes.flatMap((side) => onSide(guide, side, step.id === 'box-shell' ? 0.68 : 0.95));
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
