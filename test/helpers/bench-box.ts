import type { Vec3 } from '#core/linalg/vec.ts';
import { type Master, prepareMaster } from '#core/master/master.ts';
import { type Mesh, makeMesh } from '#core/mesh/mesh.ts';
import { between } from '#core/simulate/rings.ts';
import type { Body } from '#core/simulate/solids.ts';
import { solidKernel } from '../../src/files/solid-kernel.ts';
import { SQUARE_MARGIN } from './bench-cavity.ts';

/** Block tooth with a level top at z = 7 and upright faces at ± 4.5, and a block as neighbour across a gap. */
const TOP = 7;
const HALF = 4.5;

type Corner = readonly [number, number];
const block = (z0: number, z1: number, corners: readonly Corner[]) => between([z0, z1], (z) => corners.map(([x, y]): Vec3 => [x, y, z]));
const rectangle = (x0: number, x1: number, y0: number, y1: number): Corner[] => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];

function meshOf(body: Body): Mesh<'tooth'> {
  const m = body.refineToLength(0.12).getMesh();
  const n = m.vertProperties.length / m.numProp;
  const positions = Float64Array.from({ length: 3 * n }, (_, i) => m.vertProperties[Math.floor(i / 3) * m.numProp + (i % 3)]);
  return makeMesh('tooth', positions, Uint32Array.from(m.triVerts));
}

/** The cut: plan and floor of the occlusal part and of the box, and further solids. */
export interface BoxCut {
  readonly occlusal: { readonly plan: readonly Corner[]; readonly z: number };
  readonly box: { readonly plan: readonly Corner[]; readonly z: number };
  /** Prisms along y of an (x, z) section, over a stretch of y. */
  readonly bars?: readonly { readonly section: readonly Corner[]; readonly y: readonly [number, number] }[];
}

/** The block's master, its neighbour `gap` away on the mesial side, and the block as it is after the cut. */
export async function boxBench(cut: BoxCut, gap = 0.6): Promise<{ master: Master; scan: Mesh<'tooth'> }> {
  const kernel = await solidKernel();
  const tooth = kernel.make(block(-1.5, TOP, rectangle(-HALF, HALF, -HALF, HALF)));
  const neighbour = meshOf(kernel.make(block(-1.5, 6, rectangle(HALF + gap, HALF + gap + 4, -3.5, 3.5))));
  const bars = (cut.bars ?? []).map(({ section, y }) => {
    // A prism along y: built along z and turned.
    const s = block(y[0], y[1], section);
    const turned = Float64Array.from(s.positions, (_, i) => s.positions[i - (i % 3) + [0, 2, 1][i % 3]]);
    return kernel.make({ positions: turned, triangles: s.triangles.map((_, i) => s.triangles[i - (i % 3) + [0, 2, 1][i % 3]]) });
  });
  const cutters = [
    kernel.make(block(cut.occlusal.z, TOP + 1, cut.occlusal.plan)),
    kernel.make(block(cut.box.z, TOP + 1, cut.box.plan)),
    ...bars,
  ];
  const prepared = cutters.reduce((left, c) => left.subtract(c), tooth);
  const whole = meshOf(tooth);
  const description: Parameters<typeof prepareMaster>[0] = {
    name: 'Block',
    tooth: '37',
    axis: [0, 0, 1],
    mesial: [1, 0, 0],
    facial: [0, 1, 0],
    cusps: [{ name: 'MB', role: 'functional', at: [2, 3, TOP] }],
    grooves: [
      {
        name: 'central',
        rank: 'primary',
        line: [
          [-3, 0, TOP],
          [3, 0, TOP],
        ],
      },
      {
        name: 'facial',
        rank: 'secondary',
        line: [
          [0, 0, TOP],
          [0, 3, TOP],
        ],
      },
    ],
    ridges: { mesial: [], distal: [], oblique: [] },
    contacts: { mesial: null, distal: null },
    gingivalMargin: SQUARE_MARGIN,
  };
  const n = whole.positions.length / 3;
  const arch = makeMesh(
    'tooth',
    Float64Array.from([...whole.positions, ...neighbour.positions]),
    Uint32Array.from([...whole.triangles, ...neighbour.triangles.map((v) => v + n)]),
  );
  const parts = Uint8Array.from({ length: arch.positions.length / 3 }, (_, v) => (v < n ? 1 : 2));
  const master = prepareMaster(description, { arch: { mesh: arch, parts }, opposing: null, dej: null, caries: null, pulp: null });
  return { master, scan: meshOf(prepared) };
}

export const slotAndBox = (change: { depth?: number; height?: number; wide?: number; axial?: number; lean?: number } = {}): BoxCut => {
  const { depth = 2, height = 2, wide = 3, axial = 1.4, lean = 0 } = change;
  const x = HALF - axial;
  const y = wide / 2;
  return {
    occlusal: { plan: rectangle(-2.5, HALF + 1, -0.7, 0.7), z: TOP - depth },
    // `lean` swings the axial wall: so much more of it at the facial wall than at the lingual one.
    box: {
      plan: [
        [x + lean / 2, -y],
        [HALF + 1, -y],
        [HALF + 1, y],
        [x - lean / 2, y],
      ],
      z: TOP - depth - height,
    },
  };
};
