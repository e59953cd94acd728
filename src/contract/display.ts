import * as v from 'valibot';

const MeshHeader = v.object({ name: v.string(), vertices: v.number(), triangles: v.number(), depth: v.boolean() });

const Point = v.tuple([v.number(), v.number(), v.number()]);

/** Header of a display file: describes the binary part behind it, in order. */
export const DisplayHeader = v.object({
  format: v.literal('veritor-display/1'),
  /** +1 when mesial lies at +x in the display frame, −1 when at −x: a picture is never a mirror image of the tooth. */
  mesialSign: v.picklist([1, -1]),
  /** Names of the preparation's parts behind the part numbers; number 0 is nothing. */
  parts: v.array(v.string()),
  meshes: v.array(MeshHeader),
  finishLine: v.array(Point),
  /** Lines of the master, drawn while a reading whose name begins so is looked at: the row of the neighbours' cusps, the junction. */
  lines: v.optional(v.array(v.object({ of: v.array(v.string()), points: v.array(Point) })), []),
  /** Path of insertion, a unit vector out of the tooth. */
  path: v.optional(Point),
  /** How the lower jaw moves against the upper one, where the master has an opposing arch. */
  jaw: v.optional(
    v.object({
      isUpper: v.boolean(),
      /** Drawings made before teeth were turned in their arch say nothing of it. */
      turned_deg: v.optional(v.number(), 90),
      conditions: v.object({ path_mm: v.number(), condylar_deg: v.number(), bennett_deg: v.number() }),
    }),
  ),
});
export type DisplayHeader = v.InferOutput<typeof DisplayHeader>;

/** The master's lines that readings are taken from. */
export const linesFor = (header: Pick<DisplayHeader, 'lines'>, readings: readonly string[]): DisplayHeader['lines'] =>
  header.lines.filter(({ of }) => readings.some((r) => of.some((name) => r.startsWith(name))));

export interface DisplayMesh {
  readonly name: string;
  readonly positions: Float32Array;
  readonly indices: Uint32Array;
  readonly depth: Float32Array | null;
  readonly surface: Uint8Array | null;
}

const pad = (n: number): number => Math.ceil(n / 4) * 4;

/** Header length, header as JSON, then for each mesh: positions, depth, surface kinds (padded to four bytes), indices. */
export function packDisplay(
  header: Omit<v.InferInput<typeof DisplayHeader>, 'meshes' | 'format'>,
  meshes: readonly DisplayMesh[],
): Uint8Array {
  const full: v.InferInput<typeof DisplayHeader> = {
    format: 'veritor-display/1',
    ...header,
    meshes: meshes.map((m) => ({
      name: m.name,
      vertices: m.positions.length / 3,
      triangles: m.indices.length / 3,
      depth: m.depth !== null,
    })),
  };
  const text = new TextEncoder().encode(JSON.stringify(full));
  const blocks: Uint8Array[] = [];
  const raw = (a: Float32Array | Uint32Array | Uint8Array): Uint8Array => new Uint8Array(a.buffer, a.byteOffset, a.byteLength);
  for (const m of meshes) {
    blocks.push(raw(m.positions));
    if (m.depth && m.surface) {
      blocks.push(raw(m.depth));
      const padded = new Uint8Array(pad(m.surface.length));
      padded.set(m.surface);
      blocks.push(padded);
    }
    blocks.push(raw(m.indices));
  }
  const start = 4 + pad(text.length);
  const out = new Uint8Array(start + blocks.reduce((s, b) => s + b.length, 0));
  new DataView(out.buffer).setUint32(0, text.length, true);
  out.set(text, 4);
  let at = start;
  for (const b of blocks) {
    out.set(b, at);
    at += b.length;
  }
  return out;
}

export function unpackDisplay(buffer: ArrayBuffer): { header: DisplayHeader; meshes: DisplayMesh[] } {
  const length = new DataView(buffer).getUint32(0, true);
  const header = v.parse(DisplayHeader, JSON.parse(new TextDecoder().decode(new Uint8Array(buffer, 4, length))));
  let at = 4 + pad(length);
  const meshes = header.meshes.map((m): DisplayMesh => {
    const positions = new Float32Array(buffer, at, m.vertices * 3);
    at += m.vertices * 12;
    let depth: Float32Array | null = null;
    let surface: Uint8Array | null = null;
    if (m.depth) {
      depth = new Float32Array(buffer, at, m.vertices);
      at += m.vertices * 4;
      surface = new Uint8Array(buffer, at, m.vertices);
      at += pad(m.vertices);
    }
    const indices = new Uint32Array(buffer, at, m.triangles * 3);
    at += m.triangles * 12;
    return { name: m.name, positions, indices, depth, surface };
  });
  return { header, meshes };
}
