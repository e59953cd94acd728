import { Document, NodeIO } from '@gltf-transform/core';
import { type DepthBands, depthColour } from '#contract/depth-ramp.ts';
import type { DisplayMesh } from '#contract/display.ts';
import type { ProfileView } from '#contract/profiles.ts';
import { type DrawnLine, drawingDxf, drawingSvg, escaped } from './drawing.ts';

/** Colours of a scan's vertices as on the screen, 0 to 255, three a vertex. */
function coloursOf(scan: DisplayMesh, bands: DepthBands): Uint8Array {
  const n = scan.positions.length / 3;
  const out = new Uint8Array(3 * n);
  for (let v = 0; v < n; v++)
    out.set(
      depthColour(scan.depth?.[v] ?? 0, scan.surface?.[v] ?? 0, bands).map((c) => Math.round(255 * c)),
      3 * v,
    );
  return out;
}

/** The prepared tooth in its depth colours as a binary PLY, in mm: x to the right of the picture, y facial, z occlusal. */
export function plyOf(scan: DisplayMesh, bands: DepthBands): Uint8Array {
  const [vertices, triangles] = [scan.positions.length / 3, scan.indices.length / 3];
  const properties = ['float x', 'float y', 'float z', 'uchar red', 'uchar green', 'uchar blue'].map((p) => `property ${p}`);
  const lines = [
    'ply',
    'format binary_little_endian 1.0',
    'comment mm; coloured by depth: orange too little removed, violet too much',
    `element vertex ${vertices}`,
    ...properties,
    `element face ${triangles}`,
    'property list uchar int vertex_indices',
    'end_header',
  ];
  const header = new TextEncoder().encode(`${lines.join('\n')}\n`);
  const colours = coloursOf(scan, bands);
  const out = new Uint8Array(header.length + 15 * vertices + 13 * triangles);
  out.set(header);
  const view = new DataView(out.buffer);
  let at = header.length;
  for (let v = 0; v < vertices; v++) {
    for (let k = 0; k < 3; k++) view.setFloat32(at + 4 * k, scan.positions[3 * v + k], true);
    out.set(colours.subarray(3 * v, 3 * v + 3), at + 12);
    at += 15;
  }
  for (let f = 0; f < triangles; f++) {
    out[at] = 3;
    for (let k = 0; k < 3; k++) view.setInt32(at + 1 + 4 * k, scan.indices[3 * f + k], true);
    at += 13;
  }
  return out;
}

/** mm in a metre: what glTF counts in. */
const METRE = 1000;

/** The same tooth as binary glTF, in metres with y up, as that format asks for. */
export async function glbOf(scan: DisplayMesh, bands: DepthBands): Promise<Uint8Array> {
  const doc = new Document();
  doc.createBuffer();
  const colours = Float32Array.from(coloursOf(scan, bands), (c) => (c / 255) ** 2.2);
  const accessor = (type: 'VEC3' | 'SCALAR', array: Float32Array<ArrayBuffer> | Uint32Array<ArrayBuffer>) =>
    doc.createAccessor().setType(type).setArray(array);
  const primitive = doc
    .createPrimitive()
    .setAttribute('POSITION', accessor('VEC3', Float32Array.from(scan.positions)))
    .setAttribute('COLOR_0', accessor('VEC3', colours))
    .setIndices(accessor('SCALAR', Uint32Array.from(scan.indices)))
    .setMaterial(doc.createMaterial('depth').setRoughnessFactor(0.9).setMetallicFactor(0).setDoubleSided(true));
  const half = Math.SQRT1_2;
  const node = doc
    .createNode('preparation')
    .setMesh(doc.createMesh('preparation').addPrimitive(primitive))
    .setScale([1 / METRE, 1 / METRE, 1 / METRE])
    // Occlusal is z in the file's frame and y in glTF's.
    .setRotation([-half, 0, 0, half]);
  doc.createScene('tooth').addChild(node);
  return new NodeIO().writeBinary(doc);
}

export interface Cut {
  readonly near: ProfileView;
  readonly far: ProfileView;
}

/** Lines of a cut through the axis, (across, up) in mm from the axis and the gingival margin's level; what lies at the far side counts negative. */
export function linesOf({
  near,
  far,
}: Cut): { readonly name: 'master' | 'preparation'; readonly points: readonly (readonly [number, number])[] }[] {
  const half = (flat: readonly number[], side: 1 | -1): [number, number][] =>
    Array.from({ length: Math.floor(flat.length / 2) }, (_, i): [number, number] => [side * flat[2 * i], flat[2 * i + 1]]);
  return (
    [
      ['master', near.master, 1],
      ['master', far.master, -1],
      ['preparation', near.scan, 1],
      ['preparation', far.scan, -1],
    ] as const
  )
    .map(([name, flat, side]) => ({ name, points: half(flat, side) }))
    .filter((l) => l.points.length > 1);
}

const STROKES = { master: { stroke: '#4d5b63', width: 0.1, dashed: true }, preparation: { stroke: '#16202b', width: 0.18 } } as const;
const drawn = (cut: Cut): DrawnLine[] =>
  linesOf(cut).map((l) => ({ id: `${l.name}-${l.points[l.points.length - 1][0] < 0 ? 'far' : 'near'}`, layer: l.name, points: l.points }));

/** A cut as SVG, one unit a millimetre, with a square of 10 mm to check the print by. */
export const sectionSvg = (cut: Cut, words: string): string => drawingSvg(drawn(cut), STROKES, words);

/** The same cut as DXF, in mm, a layer each for master, preparation and the square to check by. */
export const sectionDxf = (cut: Cut): string => drawingDxf(drawn(cut), { master: 8, preparation: 7 });

/** The outline of a cavity seen along the axis as SVG, one unit a millimetre; facial up, mesial where the quadrant has it. */
export function planSvg(
  curves: Readonly<Record<string, readonly (readonly number[])[]>>,
  mesialSign: number,
  words: string,
): string | null {
  const outline = curves['plan.outline'] ?? [];
  if (outline.length === 0) return null;
  const tooth = curves['plan.tooth'] ?? [];
  const all = [...outline, ...tooth];
  const reach = Math.max(...all.flatMap((p) => [Math.abs(p[0]), Math.abs(p[1])])) + 1;
  const path = (line: readonly (readonly number[])[]): string =>
    `M${line.map((p) => `${(mesialSign * p[0]).toFixed(3)} ${(-p[1]).toFixed(3)}`).join('L')}Z`;
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${(2 * reach).toFixed(3)}mm" height="${(2 * reach).toFixed(3)}mm" viewBox="${(-reach).toFixed(3)} ${(-reach).toFixed(3)} ${(2 * reach).toFixed(3)} ${(2 * reach).toFixed(3)}">`,
    `<title>${escaped(words)}</title>`,
    ...(tooth.length
      ? [`<path id="tooth" d="${path(tooth)}" fill="none" stroke="#4d5b63" stroke-width="0.1" stroke-dasharray="0.5 0.35"/>`]
      : []),
    `<path id="outline" d="${path(outline)}" fill="none" stroke="#16202b" stroke-width="0.18"/>`,
    '</svg>',
  ].join('\n');
}
