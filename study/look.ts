// Pictures of any mesh or master, to look at: node scripts/run-ts.mjs study/look.ts FILE.stl|MASTER_FOLDER OUT.png [scale] [centre x,y,z]
import { readFileSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { PNG } from 'pngjs';
import { readScan } from '#core/scan/scan.ts';
import { blank, draw, VIEWS } from '../src/files/render.ts';

const [file, out, scale = '22', centre = '0,0,3'] = process.argv.slice(2);
const scan = readScan(readFileSync(statSync(file).isDirectory() ? path.join(file, 'arch.ply') : file));
const size = 420;
const names = ['occlusal', 'facial', 'mesial', 'lingual', 'distal'] as const;
const png = blank(3 * size, 2 * size, [229, 235, 232]);
const tint = [
  [0.85, 0.84, 0.8],
  [0.93, 0.9, 0.82],
  [0.8, 0.84, 0.86],
  [0.8, 0.86, 0.82],
  [0.84, 0.72, 0.7],
] as const;
names.forEach((n, i) => {
  draw(
    png,
    { positions: scan.mesh.positions, triangles: scan.mesh.triangles, colour: (v) => tint[scan.parts ? scan.parts[v] : 0] },
    { ...VIEWS[n], centre: centre.split(',').map(Number), scale: Number(scale) },
    { x: (i % 3) * size, y: Math.floor(i / 3) * size, width: size, height: size },
  );
});
writeFileSync(out, PNG.sync.write(png));
