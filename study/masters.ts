// Proposals for new masters against truth, on every simulated tooth class and on the foreign families: npm run study:masters -- [--teeth 16,25] [--only simulator] [--noise 0.02]
import { writeFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { type Proposal, propose } from '#core/annotate/propose.ts';
import { applyPoint, type Matrix } from '#core/linalg/rigid.ts';
import { angleBetween, distance, type Vec3 } from '#core/linalg/vec.ts';
import { type Landmarks, PART } from '#core/master/master.ts';
import { intoFrame, type Mesh, makeMesh, vertexAreas, vertexNormals } from '#core/mesh/mesh.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { quantile } from '#core/statistics/quantile.ts';
import { seeded } from '#core/statistics/random.ts';
import { solidKernel } from '../src/files/solid-kernel.ts';
import { FOREIGN } from './foreign/families.ts';

const { values } = parseArgs({
  options: { teeth: { type: 'string' }, only: { type: 'string' }, write: { type: 'string' }, noise: { type: 'string' } },
});
const ALL = '16,26,36,46,17,47,37,14,24,34,44,15,25,35,45,11,21,12,22,31,41,32,42,13,23,33,43,54,64,75,85,84,55,51,52,53,83';

interface Known {
  readonly family: string;
  readonly name: string;
  readonly tooth: string;
  readonly mesh: Mesh;
  readonly parts: Uint8Array;
  readonly axis: Vec3;
  readonly mesial: Vec3;
  readonly marks: Landmarks;
}

interface Row {
  readonly family: string;
  readonly name: string;
  readonly axis: number;
  readonly mesial: number;
  readonly tips: readonly number[];
  readonly margin: readonly number[];
  readonly labels: number;
  readonly contacts: readonly number[];
  readonly trust: Proposal['trust'] | null;
  readonly seconds: number;
  /** Degrees of a cementoenamel junction that was drawn; these teeth have none. */
  readonly cej: number;
  /** 2 where it asked which way mesial is. */
  readonly touches: number;
}

const mid = (points: readonly Vec3[]): Vec3 =>
  [0, 1, 2].map((k) => points.reduce((s, p) => s + p[k], 0) / points.length) as [number, number, number];

/** The target's highest place along its axis, for families that mark no tip. */
function highest({ mesh: { positions: p }, parts, axis }: Known): Vec3 {
  let best: Vec3 = [0, 0, 0];
  let top = -Infinity;
  for (let v = 0; v < parts.length; v++) {
    const q: Vec3 = [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
    const h = q[0] * axis[0] + q[1] * axis[1] + q[2] * axis[2];
    if (parts[v] !== PART.target || h <= top) continue;
    top = h;
    best = q;
  }
  return best;
}

/** Each point moved along its normal by noise of its own: the hardest for whatever looks for hollows. */
function noisy(mesh: Mesh): Mesh {
  const by = Number(values.noise ?? 0);
  if (by === 0) return mesh;
  const { normals } = vertexNormals(mesh);
  const random = seeded(11);
  const positions = Float64Array.from(mesh.positions);
  for (let v = 0; v < normals.length; v += 3) {
    const move = by * random.normal();
    for (let i = 0; i < 3; i++) positions[v + i] += move * normals[v + i];
  }
  return makeMesh(mesh.frame, positions, mesh.triangles);
}

/** Touched where a person would: on the biting surface, a millimetre off its middle. */
function compare(known: Known): Row {
  const k = { ...known, mesh: noisy(known.mesh) };
  const middle = k.marks.cusps.length ? mid(k.marks.cusps.map((c) => c.at)) : highest(k);
  const touched = middle.map((v, i) => v + 0.7 * k.mesial[i]) as [number, number, number];
  const start = performance.now();
  let p: Proposal;
  let touches = 1;
  try {
    p = propose(k.mesh, k.tooth, touched);
    // Where it asks which way mesial is, a second touch tells it.
    if (p.trust.mesial === 'ask') {
      touches = 2;
      p = propose(k.mesh, k.tooth, touched, { mesialward: touched.map((v, i) => v + 5 * k.mesial[i]) as [number, number, number] });
    }
  } catch (e) {
    process.stdout.write(`${k.name}: ${(e as Error).message}\n`);
    return {
      family: k.family,
      name: k.name,
      axis: 90,
      mesial: 90,
      tips: [],
      margin: [9],
      labels: 0,
      contacts: [],
      trust: null,
      seconds: 0,
      cej: 0,
      touches: 1,
    };
  }
  const seconds = (performance.now() - start) / 1000;
  const d = p.description;
  const areas = vertexAreas(k.mesh);
  let [same, all] = [0, 0];
  const counted = (part: number): boolean => part !== PART.other;
  for (let v = 0; v < areas.length; v++) {
    if (!counted(k.parts[v])) continue;
    all += areas[v];
    if (p.parts[v] === k.parts[v]) same += areas[v];
  }
  const tips = k.marks.cusps.flatMap((c) => {
    const own = d.cusps.find((q) => q.name === c.name) ?? d.cusps.reduce((a, b) => (distance(a.at, c.at) < distance(b.at, c.at) ? a : b));
    return [distance(own.at, c.at)];
  });
  const margin = d.gingivalMargin.map((q) => Math.min(...segments(k.marks.gingivalMargin, q)));
  const contacts = (['mesial', 'distal'] as const).flatMap((s) => {
    const [a, b] = [d.contacts[s], k.marks.contacts[s]];
    return a && b ? [distance(a, b)] : [];
  });
  return {
    family: k.family,
    name: k.name,
    axis: angleBetween(d.axis, k.axis),
    mesial: angleBetween(d.mesial, k.mesial),
    tips,
    margin: margin.length ? margin : [9],
    labels: same / all,
    contacts,
    trust: p.trust,
    seconds,
    cej: p.cejSeen_deg,
    touches,
  };
}

function segments(curve: readonly Vec3[], q: Vec3): number[] {
  return curve.map((a, i) => {
    const b = curve[(i + 1) % curve.length];
    const u = [0, 1, 2].map((k) => b[k] - a[k]);
    const w = [0, 1, 2].map((k) => q[k] - a[k]);
    const t = Math.min(1, Math.max(0, (u[0] * w[0] + u[1] * w[1] + u[2] * w[2]) / (u[0] ** 2 + u[1] ** 2 + u[2] ** 2 || 1)));
    return Math.hypot(w[0] - t * u[0], w[1] - t * u[1], w[2] - t * u[2]);
  });
}

const rows: Row[] = [];
const show = (r: Row): void => {
  rows.push(r);
  process.stdout.write(
    `${r.family} ${r.name}: axis ${r.axis.toFixed(2)} mesial ${r.mesial.toFixed(2)} tips ${r.tips.map((v) => v.toFixed(2)).join()} margin95 ${quantile(r.margin, 0.95).toFixed(2)} labels ${(100 * r.labels).toFixed(1)} contacts ${r.contacts.map((v) => v.toFixed(2)).join()} ${r.seconds.toFixed(1)} s ${r.cej ? `cej over ${r.cej}° ` : ''}${
      r.trust
        ? Object.entries(r.trust)
            .filter(([, t]) => t !== 'sure')
            .map(([n, t]) => `${n}:${t}`)
            .join(' ')
        : ''
    }\n`,
  );
};

if (values.only !== 'foreign') {
  const kernel = await solidKernel();
  for (const [i, tooth] of (values.teeth ?? ALL).split(',').entries()) {
    const { description: d, meshes } = new Workshop(tooth, 23 + i, kernel, { name: 'x', caries: null }).master;
    show(
      compare({
        family: 'simulator',
        name: tooth,
        tooth,
        mesh: meshes.arch.mesh,
        parts: meshes.arch.parts,
        axis: d.axis,
        mesial: d.mesial,
        marks: d,
      }),
    );
  }
}
if (values.only !== 'simulator') {
  const seen = new Set<string>();
  for (const f of FOREIGN) {
    let c: ReturnType<typeof f.make>;
    try {
      c = f.make();
    } catch {
      continue;
    }
    const m = c.master;
    const key = `${c.family} ${m.description.tooth} ${m.whole.mesh.positions.length}`;
    if (seen.has(key)) continue;
    seen.add(key);
    const back = (p: Vec3): Vec3 => applyPoint(m.fromTooth as Matrix, p);
    const l = m.landmarks;
    show(
      compare({
        family: c.family,
        name: `${c.name} (${m.description.tooth})`,
        tooth: m.description.tooth,
        mesh: intoFrame(m.whole.mesh, m.fromTooth, 'master'),
        parts: m.wholeParts,
        axis: m.description.axis,
        mesial: m.description.mesial,
        marks: {
          ...l,
          cusps: l.cusps.map((q) => ({ ...q, at: back(q.at) })),
          contacts: { mesial: l.contacts.mesial && back(l.contacts.mesial), distal: l.contacts.distal && back(l.contacts.distal) },
          gingivalMargin: l.gingivalMargin.map(back),
        },
      }),
    );
  }
}
const FAMILIES = [...new Set(rows.map((r) => r.family))];
const q95 = (list: readonly number[], digits = 2): string => (list.length ? quantile(list, 0.95).toFixed(digits) : '–');
const share = (own: readonly Row[], is: (r: Row) => boolean): string => `${Math.round((100 * own.filter(is).length) / own.length)} %`;
const correct = (r: Row): boolean =>
  r.trust !== null && r.axis <= 2 && r.tips.every((t) => t <= 0.3) && quantile(r.margin, 0.95) <= 0.3 && r.labels >= 0.97;
/** Wrong by more than twice its target, and yet proposed as sure. */
const surelyWrong = (r: Row): boolean =>
  r.trust !== null &&
  ((r.trust.axis === 'sure' && r.axis > 4) ||
    (r.trust.cusps === 'sure' && r.tips.some((t) => t > 0.6)) ||
    (r.trust.gingivalMargin === 'sure' && quantile(r.margin, 0.95) > 0.6) ||
    (r.trust.parts === 'sure' && r.labels < 0.94) ||
    (r.trust.mesial === 'sure' && r.mesial > 90));
const table = [
  '| family | masters | axis, 95 % (°) | mesial, 95 % (°) | tips, 95 % (mm) | margin, 95 % (mm) | contacts, 95 % (mm) | labels: least, median (%) | needed no correction | asked a second touch | sure, and wrong by twice the target | seconds, median |',
  '|---|---|---|---|---|---|---|---|---|---|---|---|',
  ...FAMILIES.map((family) => {
    const own = rows.filter((r) => r.family === family);
    const labels = own.map((r) => 100 * r.labels);
    return `| ${family} | ${own.length} | ${q95(own.map((r) => r.axis))} | ${q95(own.map((r) => r.mesial))} | ${q95(own.flatMap((r) => r.tips))} | ${q95(own.flatMap((r) => r.margin))} | ${q95(own.flatMap((r) => r.contacts))} | ${Math.min(...labels).toFixed(1)}, ${quantile(labels, 0.5).toFixed(1)} | ${share(own, correct)} | ${share(own, (r) => r.touches > 1)} | ${share(own, surelyWrong)} | ${quantile(
      own.map((r) => r.seconds),
      0.5,
    ).toFixed(1)} |`;
  }),
].join('\n');
process.stdout.write(`${table}\njunctions drawn where there is none: ${rows.filter((r) => r.cej > 0).length} of ${rows.length}\n`);
if (values.write) writeFileSync(values.write, JSON.stringify(rows));
