import { Document, NodeIO } from '@gltf-transform/core';
import { DxfWriter, point2d, Units } from '@tarikjabiri/dxf';
import { type DepthBands, depthColour } from '#contract/depth-ramp.ts';
import type { DisplayMesh } from '#contract/display.ts';
import type { ProfileView } from '#contract/profiles.ts';

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

/** A length to measure on the print, mm. */
const CHECK = 10;

/** A cut as SVG, one unit a millimetre, with a square of 10 mm to check the print by. */
export function sectionSvg(cut: Cut, words: string): string {
  const lines = linesOf(cut);
  const xs = lines.flatMap((l) => l.points.map((p) => p[0]));
  const zs = lines.flatMap((l) => l.points.map((p) => p[1]));
  const [left, right, low, high] = [Math.min(...xs) - 2, Math.max(...xs) + 2, Math.min(...zs) - CHECK - 3, Math.max(...zs) + 2];
  const f = (v: number): string => v.toFixed(3);
  const path = (points: readonly (readonly [number, number])[]): string => `M${points.map(([x, z]) => `${f(x)} ${f(-z)}`).join('L')}`;
  const drawn = lines.map(
    (l) =>
      `<path id="${l.name}-${l.points[l.points.length - 1][0] < 0 ? 'far' : 'near'}" d="${path(l.points)}" fill="none" stroke="${l.name === 'master' ? '#4d5b63' : '#16202b'}" stroke-width="${l.name === 'master' ? 0.1 : 0.18}"${l.name === 'master' ? ' stroke-dasharray="0.5 0.35"' : ''}/>`,
  );
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${f(right - left)}mm" height="${f(high - low)}mm" viewBox="${f(left)} ${f(-high)} ${f(right - left)} ${f(high - low)}">`,
    `<title>${escaped(words)}</title>`,
    ...drawn,
    `<rect id="check" x="${f(left + 1)}" y="${f(-low - CHECK - 1)}" width="${CHECK}" height="${CHECK}" fill="none" stroke="#16202b" stroke-width="0.1"/>`,
    `<text x="${f(left + CHECK + 2)}" y="${f(-low - 1.5)}" font-size="1.6" font-family="sans-serif">${CHECK} mm</text>`,
    '</svg>',
  ].join('\n');
}

/** The same cut as DXF, in mm, a layer each for master, preparation and the square to check by. */
export function sectionDxf(cut: Cut): string {
  const dxf = new DxfWriter();
  dxf.setUnits(Units.Millimeters);
  for (const [layer, colour] of [
    ['master', 8],
    ['preparation', 7],
    ['check', 5],
  ] as const)
    dxf.addLayer(layer, colour, 'Continuous');
  for (const { name, points } of linesOf(cut)) {
    dxf.setCurrentLayerName(name);
    dxf.addLWPolyline(points.map(([x, z]) => ({ point: point2d(x, z) })));
  }
  dxf.setCurrentLayerName('check');
  const low = Math.min(...linesOf(cut).flatMap((l) => l.points.map((p) => p[1]))) - CHECK - 2;
  const corners = [
    [0, 0],
    [CHECK, 0],
    [CHECK, CHECK],
    [0, CHECK],
    [0, 0],
  ];
  dxf.addLWPolyline(corners.map(([x, y]) => ({ point: point2d(x - CHECK / 2, low + y) })));
  return dxf.stringify();
}

const escaped = (text: string): string => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);

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
