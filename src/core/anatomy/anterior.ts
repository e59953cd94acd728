import { type CrownSize, cusp, type RidgePlan, ridge, type ToothPlan } from './plan.ts';

/** Incisors and canines: sides with a facial face curved in two directions, and a blade of edge and lingual face over them. */
export function anteriorPlan(upper: boolean, [md, fl, height]: CrownSize, position: number): ToothPlan {
  const canine = position === 3;
  const marginal = (side: 1 | -1): RidgePlan['line'] => [
    [side * 0.7, 0.1, canine ? 0.78 : 0.86],
    [side * 0.6, -0.2, 0.58],
    [side * 0.34, -0.55, 0.38],
  ];
  return {
    kind: canine ? 'canine' : 'incisor',
    upper,
    md,
    fl,
    height,
    squareness: canine ? 2.1 : upper ? 2.35 : 2.15,
    narrow: upper ? 0.11 : 0.08,
    edge: 0.35,
    cervix: canine ? [0.88, 0.76, 0.9, 0.74] : [0.9, 0.78, 0.92, 0.76],
    top: canine ? [0.42, 0.9, 0.2, 0.84] : upper ? [0.42, 0.95, 0.2, 0.9] : [0.36, 0.96, 0.2, 0.94],
    contour: canine ? [0.3, 0.76, 0.22, 0.68] : [0.26, 0.84, 0.2, 0.76],
    // The tip is part of the blade; the cusp only carries the landmark.
    cusps: canine ? [cusp('C', 0.06, 0.22, 1, !upper)] : [],
    // Lines of the marginal ridges, for the landmarks.
    ridges: [ridge('mesial', marginal(1), 2), ridge('distal', marginal(-1), 2)],
    blade: {
      behind: canine ? 0.85 : upper ? 0.85 : 0.7,
      cingulum: canine ? 0.44 : upper ? 0.4 : 0.4,
      concavity: canine ? 1.9 : upper ? 2.4 : 1.8,
      fossa: canine ? 0.35 : upper ? 0.42 : 0.18,
      lobes: canine ? 0.14 : upper ? 0.005 * md : 0.003 * md,
      corners: upper ? [0.015, 0.055] : [0.012, 0.022],
      tip: canine ? { at: 0.06, mesial: 0.3, distal: 0.34, round: 0.16 } : null,
    },
    groove: [],
    secondary: [],
  };
}
