import { prepareMaster } from '#core/master/master.ts';
import { measure } from '#core/pipeline.ts';
import { cleanClassII } from '#core/simulate/cavity/recipe.ts';
import { CLEAN_CROWN } from '#core/simulate/crown/recipe.ts';
import { defaultRecipe } from '#core/simulate/recipe.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { makeTypodont } from '#core/simulate/typodont.ts';
import { solidKernel } from '../src/files/solid-kernel.ts';

const t0 = performance.now();
let last = t0;
const lap = (s: string) => {
  const n = performance.now();
  console.log(s, (n - last).toFixed(0));
  last = n;
};
const k = await solidKernel();
lap('kernel');
makeTypodont('46', 3);
lap('typodont');
const w = new Workshop('46', 3, k);
lap('workshop');
const w2 = new Workshop('46', 4, k);
lap('workshop again');
const m = prepareMaster(w.master.description, w.master.meshes);
lap('prepareMaster');
for (const n of [20000, 40000, 80000]) {
  const scan = { ...defaultRecipe('46', 3).scan, triangles: n };
  for (const p of [CLEAN_CROWN, cleanClassII('mesial')]) {
    const c = w.carve({ preparation: p, neighbourDamage: { mesial: 0, distal: 0 }, scan });
    lap('carve ' + n + p.kind);
    const s = w.scan(c, scan, 1);
    lap('scan');
    measure(p.kind, s.scan.mesh, m);
    lap('measure');
    s.truth();
    lap('truth');
  }
}
