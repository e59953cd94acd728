import { prepareMaster } from '#core/master/master.ts';
import { measureCrown } from '#core/pipeline.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { solidKernel } from '../src/files/solid-kernel.ts';
import { drawnCrown } from './recipes.ts';

const tooth = process.argv[2];
const az = process.argv[3].split(',').map(Number);
const w = new Workshop(tooth, Number(process.argv[4]), await solidKernel());
const c = w.crown(
  {
    ...drawnCrown(tooth, Number(process.argv[5] ?? 0)),
    scan: { triangles: 120000, noise: 0.02, correlation: 0.25, pose: 'random', border: 1 },
  },
  1,
);
const m = measureCrown(c.scan.mesh as never, prepareMaster(w.master.description, w.master.meshes));
console.log('rms', m.alignment.rms, 'tau', m.context.anatomy.region.tau, m.context.draw);
for (const a of az) {
  const p = m.context.anatomy.profiles[a / 2];
  const t = c.envelope.profile((a * Math.PI) / 180);
  console.log('az', a, 'truth finish', t.finish, 'w', t.width, 'lean', t.lean, 'foot', t.wallFoot, 'top', t.wallTop);
  if (!p) {
    console.log('none');
    continue;
  }
  console.log(
    'meas finish',
    p.finish,
    'floor',
    p.floor,
    'wall',
    p.wall && { lean: p.wall.lean, from: p.wall.from, to: p.wall.to, foot: p.wall.foot, top: p.wall.top, st: p.wall.floorIsStraight },
  );
  console.log('pieces', p.pieces.map((q) => `${q.from}-${q.to}@${q.angle.toFixed(0)}`).join(' '));
  console.log(
    'out',
    p.outside.r
      .slice(0, 10)
      .map((r, i) => `${r.toFixed(2)},${p.outside.z[i].toFixed(2)}`)
      .join(' '),
  );
  console.log(
    'in',
    p.r
      .slice(0, 24)
      .map((r, i) => `${r.toFixed(2)},${p.z[i].toFixed(2)},${p.depth[i].toFixed(2)}`)
      .join(' '),
  );
}
