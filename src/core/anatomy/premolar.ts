import { type CrownSize, cusp, groove, ridge, type ToothPlan } from './plan.ts';

/** Two cusps with a triangular ridge each, a fossa to mesial and to distal of these ridges, and the central furrow from one to the other. */
export function premolarPlan(upper: boolean, [md, fl, height]: CrownSize, position: number): ToothPlan {
  const first = position === 4;
  const lingual = upper ? (first ? 0.9 : 0.96) : first ? 0.79 : 0.88;
  // A lower first premolar's ridges stand as low as its small lingual cusp.
  const marginal = !upper && first ? 0.72 : 0.84;
  const middle = !upper && first ? -0.14 : 0;
  const side = (s: 1 | -1, drop: number): ToothPlan['ridges'][number]['line'] => [
    [s * 0.4, 0.42, marginal + 0.05],
    [s * 0.76, 0.24, marginal - drop],
    [s * 0.82, 0, marginal - drop - 0.02],
    [s * 0.74, -0.27, marginal - drop],
    [s * 0.34, -0.5, Math.min(lingual * 0.95, marginal + 0.03)],
  ];
  return {
    kind: 'premolar',
    upper,
    md,
    fl,
    height,
    squareness: upper ? 2.35 : 2.25,
    narrow: upper ? 0.07 : 0.09,
    edge: 0.5,
    cervix: [0.9, 0.76, 0.9, 0.76],
    top: [0.66, 0.84, 0.7, 0.84],
    contour: [0.32, 0.7, 0.5, 0.66],
    cusps: [cusp('F', 0.02, 0.46, 1, !upper, 0.8), cusp('L', 0.1, upper ? -0.46 : -0.5, lingual, upper, 0.76)],
    ridges: [
      ridge('mesial', side(1, 0), 0.85),
      ridge('distal', side(-1, 0.02), 0.85),
      ridge(
        'triangular',
        [
          [0.02, 0.46, 0.98],
          [0.02, middle + 0.05, !upper && first ? 0.66 : 0.73],
        ],
        0.85,
      ),
      ridge(
        'triangular',
        [
          [0.1, -0.46, lingual * 0.98],
          [0.06, middle - 0.05, !upper && first ? 0.65 : 0.72],
        ],
        0.85,
      ),
    ],
    groove: [
      [0.56, middle, 0.7],
      [0, middle, 0.7],
      [-0.56, middle, 0.7],
    ],
    furrow: 0.2,
    secondary: [
      groove('mesiofacial fossa', [0.48, middle], [0.62, middle + 0.18]),
      groove('mesiolingual fossa', [0.48, middle], [0.61, middle - 0.17]),
      groove('distofacial fossa', [-0.48, middle], [-0.62, middle + 0.18]),
      groove('distolingual fossa', [-0.48, middle], [-0.61, middle - 0.17]),
    ],
  };
}
