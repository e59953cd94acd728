import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import { cutAfter } from '#core/dry/cut.ts';
import { type Fitted, nextFit, offBy, type Trial, UNFITTED } from '#core/dry/fitted.ts';
import { AS_PLANNED } from '#core/dry/way.ts';
import { KINDS } from '#core/kinds/kinds.ts';
import type { Master } from '#core/master/master.ts';
import { intoFrame, makeMesh } from '#core/mesh/mesh.ts';
import { measureInPlace } from '#core/pipeline.ts';
import { guideOf, guidePlanes } from '#core/plan/guide.ts';
import { GUIDE, guideBody } from '#core/plan/guide-body.ts';
import { Fault } from '#core/result/fault.ts';
import { OwnShop } from '#core/simulate/own/own-shop.ts';
import { writeStl } from '#core/simulate/write.ts';
import { solidKernel } from '../../files/solid-kernel.ts';
import { displayFile, profileViews } from '../scans/display.ts';
import type { Results, Task } from './tasks.ts';

type Of<K extends Task['kind']> = Extract<Task, { kind: K }>;

const shops = new WeakMap<Master, OwnShop>();
function shopOf(master: Master): OwnShop {
  const shop = shops.get(master) ?? new OwnShop(master, solidKernel);
  shops.set(master, shop);
  return shop;
}

/** Hollows and bevels are fitted to a tooth once for each plan. */
const fits = new Map<string, Fitted>();
const FITS_MOST = 30;
const ROUNDS = 3;

const cannot = (kind: string): Fault =>
  new Fault('kind.unsupported', {
    expected: 'a preparation that can be cut dry',
    received: `“${kind}” cannot`,
    remedy: 'Use the plan and its card; a dry run is there for crowns, cavities, onlays and partial crowns.',
  });

async function readDry(task: Of<'dry'>, master: Master, way: typeof task.way, step: typeof task.step, fit: Fitted) {
  const cut = cutAfter(task.plan, task.cutters, way, step, fit);
  if (!cut) throw cannot(task.plan.kind);
  return measureInPlace(task.plan.kind, await shopOf(master).cut(cut), master);
}

async function dry(task: Of<'dry'>, master: Master): Promise<Results['dry']> {
  const start = performance.now();
  let fit = UNFITTED;
  const last = task.plan.steps[task.plan.steps.length - 1].id;
  const hasBevel = task.plan.steps.some((s) => s.id === 'functional-bevel' && s.readings.length > 0);
  if (KINDS[task.plan.kind].hollow || hasBevel) {
    const key = `${task.masterFile} ${JSON.stringify(task.plan.steps.map((s) => s.readings))}`;
    const known = fits.get(key);
    const trials: Trial[] = [];
    // A box's walls meet the neighbour at a slant, so that one step does not bring it there.
    for (let round = 0; !known && round < ROUNDS; round++) {
      trials.push({ fit, off: offBy(task.plan, (await readDry(task, master, AS_PLANNED, last, fit)).readings) });
      fit = nextFit(trials);
    }
    fit = known ?? fit;
    fits.set(key, fit);
    if (fits.size > FITS_MOST) fits.delete(fits.keys().next().value as string);
  }
  const m = await readDry(task, master, task.way, task.step, fit);
  const put = (name: string, content: Uint8Array | string): string => {
    const file = path.join(task.outFolder, name);
    writeFileSync(file, gzipSync(content, { level: 3 }));
    return file;
  };
  return {
    readings: m.readings,
    display: put('display', await displayFile(m)),
    profiles: put('profiles', JSON.stringify({ format: 'veritor-profiles/1', profiles: profileViews(m) })),
    durationMs: performance.now() - start,
  };
}

/** mm between the places at which a guide's body is looked at. */
const EDGE = 0.4;

/** A guide to print: the shell over the tooth and its neighbours, cut open along one of the guide's planes. */
async function body(task: Of<'guide-body'>, master: Master): Promise<Results['guide-body']> {
  const plane = guidePlanes(master)[task.plane];
  if (!plane)
    throw new Fault('file.unreadable', {
      expected: `one of the ${guidePlanes(master).length} planes of this tooth`,
      received: `number ${task.plane}`,
      remedy: 'Choose a plane from the list.',
    });
  const kernel = await solidKernel();
  const top = Math.max(...master.landmarks.cusps.map((c) => c.at[2]), 3) + GUIDE.thickness + 1;
  const made = kernel.levelSet(guideBody(master, plane), [-GUIDE.reach, -GUIDE.reach, 0], [GUIDE.reach, GUIDE.reach, top], EDGE);
  const { vertProperties, triVerts, numProp } = made.getMesh();
  const positions = new Float64Array((vertProperties.length / numProp) * 3);
  for (let v = 0; v < positions.length / 3; v++) for (let k = 0; k < 3; k++) positions[3 * v + k] = vertProperties[numProp * v + k];
  made.delete();
  // Printed as it stands in the mouth: a mirrored tooth frame is turned back.
  const mesh = intoFrame(makeMesh('tooth', positions, Uint32Array.from(triVerts)), master.fromTooth, 'master');
  return { stl: writeStl(mesh), name: plane.name };
}

export function planTask(
  task: Of<'dry'> | Of<'guide'> | Of<'guide-body'>,
  master: Master,
): Promise<Results['dry' | 'guide' | 'guide-body']> {
  switch (task.kind) {
    case 'dry':
      return dry(task, master);
    case 'guide':
      return Promise.resolve(guideOf(master, task.standard));
    case 'guide-body':
      return body(task, master);
  }
}
