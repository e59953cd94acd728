import { type CrownSize, type CuspPlan, cusp, groove, type RidgePlan, ridge, type ToothPlan } from './plan.ts';

export function molarPlan(upper: boolean, [md, fl, height]: CrownSize, primary: boolean): ToothPlan {
  const sides = {
    cervix: primary ? ([0.86, 0.8, 0.86, 0.8] as const) : ([0.92, 0.83, 0.9, 0.83] as const),
    top: [0.7, 0.88, 0.74, 0.86] as const,
    contour: [0.3, 0.68, 0.5, 0.62] as const,
    edge: 0.55,
    kind: 'molar' as const,
  };
  if (upper)
    return {
      ...sides,
      upper,
      md,
      fl,
      height,
      squareness: 2.9,
      cusps: [
        cusp('MB', 0.42, 0.5, 0.98, false),
        cusp('DB', -0.42, 0.48, 0.94, false),
        cusp('ML', 0.3, -0.46, 1, true, 0.58),
        cusp('DL', -0.5, -0.5, 0.88, true),
      ],
      ridges: [
        ridge(
          'mesial',
          [
            [0.5, 0.5, 0.9],
            [0.86, 0.3, 0.83],
            [0.9, 0, 0.81],
            [0.84, -0.3, 0.83],
            [0.42, -0.5, 0.9],
          ],
          0.75,
        ),
        ridge(
          'distal',
          [
            [-0.5, 0.5, 0.86],
            [-0.84, 0.3, 0.79],
            [-0.88, 0, 0.77],
            [-0.84, -0.3, 0.78],
            [-0.55, -0.5, 0.82],
          ],
          0.75,
        ),
        ridge(
          'oblique',
          [
            [0.3, -0.46, 0.98],
            [-0.04, -0.02, 0.8],
            [-0.42, 0.48, 0.92],
          ],
          0.85,
        ),
        ridge(
          'triangular',
          [
            [0.42, 0.5, 0.97],
            [0.3, 0.04, 0.76],
          ],
          0.95,
        ),
        ridge(
          'triangular',
          [
            [-0.5, -0.5, 0.87],
            [-0.46, -0.2, 0.76],
          ],
          0.95,
        ),
      ],
      groove: [
        [0.72, 0.02, 0.74],
        [0.3, 0.02, 0.74],
        [-0.1, 0.05, 0.76],
        [-0.42, -0.06, 0.74],
        [-0.7, -0.02, 0.74],
      ],
      secondary: [
        groove('facial', [-0.02, 0.05], [0, 0.82]),
        groove('distolingual', [-0.56, -0.06], [-0.12, -0.8]),
        groove('mesiofacial fossa', [0.6, 0.02], [0.72, 0.26]),
        groove('mesiolingual fossa', [0.6, 0.02], [0.71, -0.24]),
        groove('distofacial fossa', [-0.58, -0.02], [-0.7, 0.24]),
      ],
    };
  return {
    ...sides,
    upper,
    md,
    fl,
    height,
    squareness: 3.1,
    contour: [0.3, 0.66, 0.55, 0.6],
    top: [0.68, 0.88, 0.78, 0.86],
    cusps: [
      cusp('MB', 0.46, 0.46, 0.97, true),
      cusp('DB', -0.12, 0.5, 0.95, true),
      cusp('D', -0.62, 0.34, 0.88, true),
      cusp('ML', 0.4, -0.52, 1, false),
      cusp('DL', -0.38, -0.52, 0.97, false),
    ],
    ridges: [
      ridge(
        'mesial',
        [
          [0.5, 0.46, 0.9],
          [0.86, 0.26, 0.83],
          [0.9, 0, 0.81],
          [0.86, -0.28, 0.83],
          [0.46, -0.52, 0.92],
        ],
        0.75,
      ),
      ridge(
        'distal',
        [
          [-0.62, 0.34, 0.86],
          [-0.86, 0.18, 0.79],
          [-0.88, 0, 0.78],
          [-0.84, -0.26, 0.8],
          [-0.44, -0.52, 0.9],
        ],
        0.75,
      ),
      ridge(
        'triangular',
        [
          [0.46, 0.46, 0.96],
          [0.4, 0.08, 0.76],
        ],
        0.95,
      ),
      ridge(
        'triangular',
        [
          [-0.12, 0.5, 0.94],
          [-0.12, 0.1, 0.76],
        ],
        0.95,
      ),
      ridge(
        'triangular',
        [
          [0.4, -0.52, 0.98],
          [0.36, -0.1, 0.76],
        ],
        0.95,
      ),
      ridge(
        'triangular',
        [
          [-0.38, -0.52, 0.95],
          [-0.36, -0.1, 0.76],
        ],
        0.95,
      ),
    ],
    groove: [
      [0.74, 0, 0.74],
      [0.38, -0.02, 0.74],
      [0, 0, 0.73],
      [-0.38, -0.02, 0.74],
      [-0.72, 0, 0.74],
    ],
    secondary: [
      groove('mesiofacial', [0.17, 0], [0.18, 0.82]),
      groove('distofacial', [-0.4, -0.01], [-0.42, 0.74]),
      groove('lingual', [0, 0], [0.02, -0.84]),
      ...LOWER_FOSSAE,
    ],
  };
}

const LOWER_FOSSAE = [
  groove('mesiofacial fossa', [0.6, 0], [0.73, 0.22]),
  groove('mesiolingual fossa', [0.6, 0], [0.72, -0.24]),
  groove('distolingual fossa', [-0.58, 0], [-0.71, -0.23]),
];

/** Lower second and third molars: two facial and two lingual cusps about a cross of grooves. */
export function fourCusped(p: ToothPlan): ToothPlan {
  const facial = (c: CuspPlan): CuspPlan => (c.name === 'DB' ? cusp('DB', -0.42, 0.46, 0.94, true) : c);
  return {
    ...p,
    cusps: p.cusps.filter((c) => c.name !== 'D').map(facial),
    secondary: [
      groove('facial', [0, 0], [0.01, 0.82]),
      groove('lingual', [0, 0], [0.02, -0.84]),
      groove('distofacial fossa', [-0.58, 0], [-0.71, 0.22]),
      ...LOWER_FOSSAE,
    ],
    ridges: p.ridges.map((r): RidgePlan => {
      if (r.name === 'distal')
        return ridge(
          'distal',
          [
            [-0.44, 0.46, 0.88],
            [-0.84, 0.26, 0.8],
            [-0.88, 0, 0.78],
            [-0.84, -0.26, 0.8],
            [-0.44, -0.52, 0.9],
          ],
          r.slope,
        );
      const [x, y] = r.line[0];
      return r.name === 'triangular' && x === -0.12 && y > 0
        ? ridge(
            'triangular',
            [
              [-0.42, 0.46, 0.93],
              [-0.38, 0.1, 0.76],
            ],
            r.slope,
          )
        : r;
    }),
  };
}
