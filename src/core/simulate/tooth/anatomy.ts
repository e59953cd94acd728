/**
 * Anatomy in numbers: usual mean crown sizes (mm) and where cusps and ridges lie, as shares of half the mesiodistal size
 * (x, + mesial), half the faciolingual size (y, + facial) and the crown height (z). One plan a tooth class; the quadrant
 * only mirrors it.
 * @source mean crown dimensions as given in the usual dental anatomy tables
 */
export type ToothClass = 'incisor' | 'canine' | 'premolar' | 'molar';

export interface CuspPlan {
  readonly name: string;
  readonly at: readonly [x: number, y: number, z: number];
  readonly functional: boolean;
  /** Fall of the inner incline and of the outer one (rise over run). */
  readonly inner: number;
  readonly outer: number;
}
export interface RidgePlan {
  readonly name: 'mesial' | 'distal' | 'oblique' | 'triangular' | 'incisal' | 'cingulum' | 'lingual';
  readonly line: readonly (readonly [number, number, number])[];
  readonly slope: number;
}
/** A secondary groove from one place to another, seen along the axis (shares). */
export interface GroovePlan {
  readonly name: string;
  readonly line: readonly [from: readonly [number, number], to: readonly [number, number]];
}
export interface ToothPlan {
  readonly kind: ToothClass;
  readonly upper: boolean;
  readonly md: number;
  readonly fl: number;
  readonly height: number;
  /** Exponent of the outline's superellipse: 2 is an ellipse, more is boxier. */
  readonly squareness: number;
  /** Size at the cervix and at the occlusal end as a share of the largest, and the height of contour: facial, mesial, lingual, distal. */
  readonly cervix: readonly [number, number, number, number];
  readonly top: readonly [number, number, number, number];
  readonly contour: readonly [number, number, number, number];
  readonly cusps: readonly CuspPlan[];
  readonly ridges: readonly RidgePlan[];
  /** mm: rounding between the sides and the top. */
  readonly edge: number;
  /** Polyline of the primary central groove (shares), where there is one. */
  readonly groove: readonly (readonly [number, number, number])[];
  /** From the central groove between the cusps and into the corners of the fossae. */
  readonly secondary: readonly GroovePlan[];
}

// Sizes by FDI position: [mesiodistal, faciolingual, crown height].
const UPPER: readonly (readonly [number, number, number])[] = [
  [8.5, 7, 10.5],
  [6.5, 6, 9],
  [7.5, 8, 10],
  [7, 9, 8.5],
  [7, 9, 8.5],
  [10, 11, 7.5],
  [9, 11, 7],
  [8.5, 10, 6.5],
];
const LOWER: readonly (readonly [number, number, number])[] = [
  [5, 6, 9],
  [5.5, 6.5, 9.5],
  [7, 7.5, 11],
  [7, 7.5, 8.5],
  [7, 8, 8],
  [11, 10.5, 7.5],
  [10.5, 10, 7],
  [10, 9.5, 7],
];
const PRIMARY_UPPER: readonly (readonly [number, number, number])[] = [
  [6.5, 5, 6],
  [5.1, 4, 5.6],
  [7, 7, 6.5],
  [7, 8.5, 5.1],
  [8.2, 10, 5.7],
];
const PRIMARY_LOWER: readonly (readonly [number, number, number])[] = [
  [4.2, 4, 5],
  [4.1, 4, 5.2],
  [5, 4.8, 6],
  [7.7, 7, 6],
  [9.9, 8.7, 5.5],
];

/** Functional cusps: lingual above, facial below. */
const cusp = (name: string, x: number, y: number, z: number, functional: boolean, inner = 0.62, outer = 1.15): CuspPlan => ({
  name,
  at: [x, y, z],
  functional,
  inner,
  outer,
});
const groove = (name: string, ...line: GroovePlan['line']): GroovePlan => ({ name, line });
const ridge = (name: RidgePlan['name'], line: RidgePlan['line'], slope: number): RidgePlan => ({ name, line, slope });

export const isPrimary = (tooth: string): boolean => Number(tooth[0]) >= 5;
export const isUpper = (tooth: string): boolean => [1, 2, 5, 6].includes(Number(tooth[0]));
/**
 * Quadrants whose mesial, facial and occlusal axes are left-handed: upper left and lower right. On an upper right molar mesial is
 * forward, facial to the patient's right and occlusal down: forward × right = down, which is right-handed.
 */
export const isLeftHanded = (tooth: string): boolean => [2, 4, 6, 8].includes(Number(tooth[0]));

export function planOf(tooth: string): ToothPlan {
  const position = Number(tooth[1]);
  const primary = isPrimary(tooth);
  const upper = isUpper(tooth);
  const table = primary ? (upper ? PRIMARY_UPPER : PRIMARY_LOWER) : upper ? UPPER : LOWER;
  const size = table[position - 1];
  if (!size) throw new RangeError(`there is no tooth ${tooth}`);
  const molar = primary ? position >= 4 : position >= 6;
  if (molar) {
    const plan = molarPlan(upper, size, primary);
    return !upper && !primary && position >= 7 ? fourCusped(plan) : plan;
  }
  if (!primary && position >= 4) return premolarPlan(upper, size, position);
  return anteriorPlan(upper, size, position);
}

function molarPlan(upper: boolean, [md, fl, height]: readonly [number, number, number], primary: boolean): ToothPlan {
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
function fourCusped(p: ToothPlan): ToothPlan {
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

function premolarPlan(upper: boolean, [md, fl, height]: readonly [number, number, number], position: number): ToothPlan {
  const first = position === 4;
  const lingual = upper ? (first ? 0.9 : 0.96) : first ? 0.74 : 0.88;
  return {
    kind: 'premolar',
    upper,
    md,
    fl,
    height,
    squareness: 2.3,
    edge: 0.5,
    cervix: [0.9, 0.76, 0.9, 0.76],
    top: [0.66, 0.82, 0.7, 0.82],
    contour: [0.32, 0.7, 0.5, 0.66],
    cusps: [cusp('F', 0.02, 0.46, 1, !upper, 0.72), cusp('L', 0.1, upper ? -0.48 : -0.52, lingual, upper, 0.66)],
    ridges: [
      ridge(
        'mesial',
        [
          [0.3, 0.44, lingual * 0.9],
          [0.78, 0.24, 0.78],
          [0.84, 0, 0.76],
          [0.78, -0.26, 0.76],
          [0.3, -0.5, lingual * 0.92],
        ],
        0.85,
      ),
      ridge(
        'distal',
        [
          [-0.3, 0.44, lingual * 0.9],
          [-0.78, 0.24, 0.76],
          [-0.84, 0, 0.74],
          [-0.78, -0.26, 0.74],
          [-0.2, -0.5, lingual * 0.9],
        ],
        0.85,
      ),
      ridge(
        'triangular',
        [
          [0.02, 0.46, 0.98],
          [0, 0.06, 0.74],
        ],
        0.85,
      ),
      ridge(
        'triangular',
        [
          [0.1, -0.48, lingual * 0.98],
          [0.05, -0.08, 0.7],
        ],
        0.85,
      ),
    ],
    groove: [
      [0.6, 0, 0.7],
      [0, 0, 0.7],
      [-0.6, 0, 0.7],
    ],
    secondary: [
      groove('mesiofacial fossa', [0.46, -0.06], [0.62, 0.16]),
      groove('mesiolingual fossa', [0.46, -0.06], [0.61, -0.22]),
      groove('distofacial fossa', [-0.46, -0.06], [-0.62, 0.16]),
      groove('distolingual fossa', [-0.46, -0.06], [-0.61, -0.22]),
    ],
  };
}

function anteriorPlan(upper: boolean, [md, fl, height]: readonly [number, number, number], position: number): ToothPlan {
  const canine = position === 3;
  const wide = upper ? 0.78 : 0.8;
  const edge: RidgePlan['line'] = canine
    ? [
        [0.8, 0.12, 0.79],
        [0.62, 0.16, 0.85],
        [0.36, 0.2, 0.915],
        [0.06, 0.22, 1],
        [-0.34, 0.2, 0.895],
        [-0.62, 0.15, 0.82],
        [-0.8, 0.1, 0.75],
      ]
    : [
        [wide, 0.14, 0.985],
        [0.4, 0.18, 1],
        [0, 0.2, 1],
        [-0.4, 0.18, 0.995],
        [-wide, 0.12, 0.955],
      ];
  return {
    kind: canine ? 'canine' : 'incisor',
    upper,
    md,
    fl,
    height,
    squareness: 2.15,
    edge: 0.35,
    cervix: [0.9, 0.74, 0.92, 0.74],
    top: [0.42, 0.94, 0.2, 0.92],
    contour: [0.24, 0.78, 0.2, 0.72],
    // The tip is part of the incisal ridge; the cusp itself is kept inside it and only carries the landmark.
    cusps: canine ? [cusp('C', 0.06, 0.22, 0.985, !upper, 4.5, 4.5)] : [],
    ridges: [
      ridge('incisal', edge, 2.7),
      ridge(
        'cingulum',
        [
          [0.22, -0.52, 0.36],
          [0, -0.56, 0.38],
          [-0.22, -0.52, 0.36],
        ],
        1.5,
      ),
      ridge(
        'mesial',
        [
          [0.7, 0.06, canine ? 0.78 : 0.86],
          [0.58, -0.2, canine ? 0.56 : 0.6],
          [0.3, -0.5, 0.38],
        ],
        canine ? 1.7 : 2.2,
      ),
      ridge(
        'distal',
        [
          [-0.7, 0.06, canine ? 0.74 : 0.84],
          [-0.58, -0.2, canine ? 0.53 : 0.58],
          [-0.3, -0.5, 0.38],
        ],
        canine ? 1.7 : 2.2,
      ),
      ...(canine
        ? [
            ridge(
              'lingual',
              [
                [0.06, 0.2, 0.97],
                [0.03, -0.2, 0.64],
                [0, -0.5, 0.42],
              ],
              1.6,
            ),
          ]
        : []),
    ],
    groove: [],
    secondary: [],
  };
}
