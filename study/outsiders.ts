// Teeth and preparations that the simulator did not make, measured as any scan would be: node scripts/run-ts.mjs study/outsiders.ts [name …]
// Expected values come from the cutters' own numbers.
import { execFileSync } from 'node:child_process';
import { applyPoint } from '#core/linalg/rigid.ts';
import type { Vec3 } from '#core/linalg/vec.ts';
import { measure } from '#core/pipeline.ts';
import { Fault } from '#core/result/fault.ts';
import { build, CASES } from './outsiders/shapes.ts';

const want = process.argv.slice(2);
const asked = CASES.filter((o) => want.length === 0 || want.some((w) => o.name.includes(w)));
// Each in a process of its own: the bodies of all of them together fill the solid kernel's memory, which then stands still.
if (asked.length > 1) for (const o of asked) execFileSync(process.execPath, [process.argv[1], o.name], { stdio: 'inherit' });
for (const o of asked.length > 1 ? [] : asked) {
  const b = build(o, 11 + o.name.length);
  const t0 = performance.now();
  try {
    const r = measure(o.kind, b.scan, b.master);
    const back = [
      [0, 0, 3],
      [4, 0, 0],
      [0, 4, 6],
    ].map((q) => {
      const w = applyPoint(r.scanToMaster, applyPoint(b.toScan, q as unknown as Vec3));
      const e = applyPoint(b.file, q as unknown as Vec3);
      return Math.hypot(w[0] - e[0], w[1] - e[1], w[2] - e[2]);
    });
    console.log(
      `\n## ${o.name}: ${b.scan.triangles.length / 3} triangles, pose off by ${(1000 * Math.max(...back)).toFixed(1)} µm, ${(performance.now() - t0).toFixed(0)} ms`,
    );
    const show = (n: string, zone: string | null, stat: string, expected?: number) => {
      const x = r.readings.find((q) => q.name === n && q.zone === zone && q.stat === stat);
      console.log(
        `  ${n} ${zone ?? ''} ${stat}: ${x ? (x.value === null ? `— ${x.reason}` : `${x.value.toFixed(3)} ± ${x.U?.toFixed(3)}`) : 'missing'}${expected === undefined ? '' : `   expected ${expected}`}`,
      );
    };
    if (o.crown) {
      const c = o.crown;
      for (const z of [null, 'facial', 'mesial', 'lingual', 'distal']) show('margin.width', z, 'median', c.width);
      show('margin.gingiva', null, 'median', c.over);
      for (const [z, k] of [
        ['facial', 'f'],
        ['mesial', 'm'],
        ['lingual', 'l'],
        ['distal', 'd'],
      ] as const)
        show('taper.wall', z, 'median', c.taper[k]);
      show('toc.faciolingual', null, 'mean', c.taper.f + c.taper.l);
      show('toc.mesiodistal', null, 'mean', c.taper.m + c.taper.d);
      show('draw.tilt', null, 'value');
      show('margin.exit', null, 'median');
      show('margin.lip', null, 'max', 0);
      show('undercut.depth', null, 'max', 0);
      show('wall.height', null, 'min');
      if (o.form.includes('incisor') || o.form.includes('canine')) show('reduction.incisal', null, 'value', c.down);
      for (const q of b.form.cusps) show('reduction.occlusal', q.name, 'median', c.down);
      show('reduction.occlusal', 'central groove', 'median');
      show('neighbour.mesial', null, 'max', 0);
      show('neighbour.distal', null, 'max', 0);
    } else {
      const c = o.cavity ?? o.onlay ?? o.partial;
      for (const q of r.readings.filter(
        (q) =>
          q.value !== null &&
          ['median', 'value', 'max', 'mean'].includes(q.stat) &&
          !/^(form|surface|neighbour|gingiva|wall.lean|reduction.sites)/.test(q.name),
      ))
        show(q.name, q.zone, q.stat);
      console.log('  cut:', JSON.stringify(c));
    }
    const refused = r.readings.filter((q) => q.value === null);
    console.log(
      `  refused ${refused.length}: ${[...new Set(refused.map((q) => `${q.name}/${q.zone ?? '-'}:${q.reason?.slice(0, 60)}`))].slice(0, 12).join(' | ')}`,
    );
  } catch (e) {
    console.log(`\n## ${o.name}: FAILED`, e instanceof Fault ? `${e.code} ${e.message}` : e);
  }
}
