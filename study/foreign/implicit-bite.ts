// Family "implicit", what bites against a preparation: an opposing tooth, and how far the cut surface stays away from it at rest and on its way.
import type { Vec3 } from '#core/linalg/vec.ts';
import type { Truth } from './case.ts';
import { middleOf } from './implicit-crown.ts';
import { type Body, gradient, surfaceNets } from './implicit-mesh.ts';
import { IMPLICIT_TEETH, type ImplicitTooth, landmarks, uncut } from './implicit-tooth.ts';
import { emptySheet, type Sheet } from './scanner.ts';

const RAD = Math.PI / 180;

/** An opposing tooth: which one, how far to facial its middle stands, and the height of its own gingival plane over the target's. */
export interface Bite {
  readonly form: string;
  readonly facial: number;
  readonly over: number;
  /** Degrees by which it leans, its edge or its cusps to facial. */
  readonly lean?: number;
}

/** The opposing tooth, its cusps or its edge down; negative inside. */
export function opposingOf({ form, facial, over, lean = 0 }: Bite): Body {
  const t = IMPLICIT_TEETH[form];
  const own = uncut(t);
  const tan = Math.tan(lean * RAD);
  return (x, y, z) => own(x, y - facial + tan * (z - over + t.h), over - z);
}

/** The occlusal part of an opposing tooth. */
export function opposingSheet(b: Bite, cell: number): Sheet {
  const t = IMPLICIT_TEETH[b.form];
  const sheet = emptySheet();
  const [a, c] = [t.md / 2 + 0.5, t.fl / 2 + 0.5];
  surfaceNets(
    sheet,
    opposingOf(b),
    { from: [-a, b.facial - c, b.over - t.h - 1], to: [a, b.facial + c, b.over - 0.4 * t.h] },
    cell,
    () => 1,
  );
  return sheet;
}

/** mm between the places of the opposing tooth and of the cut surface that distances are taken between. */
const FINE = 0.06;
const PLACE = 0.1;

/** mm: side of the cubes in which the opposing tooth's places are kept, and how many of them there may be each way. */
const CUBE = 0.5;
const CUBES = 256;

/** Least distance to any of some places, those farther than a limit left out. */
function nearestOf(places: readonly number[]): (p: Vec3, limit: number) => number {
  const inCube = (v: number): number => Math.floor(v / CUBE) + CUBES / 2;
  const key = (i: number, j: number, k: number): number => (i * CUBES + j) * CUBES + k;
  const cubes = new Map<number, number[]>();
  for (let i = 0; i < places.length; i += 3) {
    const own = key(inCube(places[i]), inCube(places[i + 1]), inCube(places[i + 2]));
    const cube = cubes.get(own);
    if (cube) cube.push(i);
    else cubes.set(own, [i]);
  }
  return ([x, y, z], limit) => {
    const [a, b, c] = [inCube(x), inCube(y), inCube(z)];
    let best = limit ** 2;
    // A place in ring n is at least n - 1 cubes away.
    for (let ring = 0; (ring - 1) * CUBE < Math.sqrt(best); ring++)
      for (let i = -ring; i <= ring; i++)
        for (let j = -ring; j <= ring; j++) {
          const isInner = Math.max(Math.abs(i), Math.abs(j)) < ring;
          for (let k = -ring; k <= ring; k += isInner ? 2 * ring : 1)
            for (const at of cubes.get(key(a + i, b + j, c + k)) ?? [])
              best = Math.min(best, (places[at] - x) ** 2 + (places[at + 1] - y) ** 2 + (places[at + 2] - z) ** 2);
        }
    return Math.sqrt(best);
  };
}

/**
 * The ways that the opposing tooth takes, mm at their ends: 2 mm long, dropping by 30°, to the balancing side 10° forward.
 * Forward is mesial of a molar or premolar, and 10° to mesial of a central incisor's facial side.
 */
function waysOf(t: ImplicitTooth): Readonly<Record<string, readonly Vec3[]>> {
  const jaw = ['1', '2'].includes(t.tooth[0]) ? 1 : -1;
  const [along, apart] = [2 * Math.cos(30 * RAD), 2 * Math.sin(30 * RAD)];
  const to = (degrees: number): Vec3 => [jaw * along * Math.cos(degrees * RAD), jaw * along * Math.sin(degrees * RAD), apart];
  // From mesial to facial; the tooth's own side lies a right angle further on.
  const forward = t.blade ? 80 : 0;
  return {
    'clearance.static': [],
    'clearance.lateral': [to(forward + 90), to(forward - 80)],
    'clearance.protrusive': [to(forward)],
  };
}

/** Steps from rest to the end of a way. */
const STEPS = 8;

/** Places of a body's surface in a block. */
function surfaceOf(body: Body, from: Vec3, to: Vec3): Vec3[] {
  const sheet = emptySheet();
  surfaceNets(sheet, body, { from, to }, PLACE, () => 1);
  return Array.from({ length: sheet.positions.length / 3 }, (_, i) => [0, 1, 2].map((k) => sheet.positions[3 * i + k]) as unknown as Vec3);
}

/** mm beyond which the opposing tooth is simply far away. */
const FAR = 6;

/** Least distance of places of the cut surface to the opposing tooth, at rest and on every way that it takes. */
function clearanceTruths(t: ImplicitTooth, bite: Bite, zone: string, places: readonly Vec3[]): Truth[] {
  const body = opposingOf(bite);
  const away = nearestOf(opposingSheet(bite, FINE).positions);
  // Negative inside of it.
  const opposing = (p: Vec3, limit: number): number => (body(...p) < 0 ? -away(p, FAR) : away(p, Math.max(0, limit)));
  const least = (shifts: readonly Vec3[], from: number): number =>
    shifts.reduce((best, [u, v, w]) => places.reduce((d, [x, y, z]) => Math.min(d, opposing([x - u, y - v, z - w], d)), best), from);
  const rest = least([[0, 0, 0]], FAR);
  return Object.entries(waysOf(t)).map(([name, ends]) => {
    const shifts = ends.flatMap((end) => Array.from({ length: STEPS }, (_, i) => end.map((v) => (v * (i + 1)) / STEPS) as unknown as Vec3));
    return { name, zone, stat: 'min', value: least(shifts, rest) };
  });
}

/** mm round a cusp's tip that are its zone, and degrees to the long axis up to which a surface is wall. */
const CUSP = 1.25;
const WALL = 30;

/** Places of a cut body's occlusal surface: over its walls, and not as steep as they are. */
function occlusalOf(t: ImplicitTooth, body: Body): Vec3[] {
  return surfaceOf(body, [-t.md / 2, -t.fl / 2, t.h / 2], [t.md / 2, t.fl / 2, t.h + 1]).filter((p) => {
    const g = gradient(body, p);
    return g[2] > Math.sin(WALL * RAD) * Math.hypot(...g);
  });
}

/** Clearances over every cusp of a posterior tooth, and how far flat gauges go in from either side. */
export function occlusalBite(t: ImplicitTooth, body: Body, bite: Bite): Truth[] {
  const places = occlusalOf(t, body);
  const opposing = nearestOf(opposingSheet(bite, FINE).positions);
  const out = landmarks(t).cusps.flatMap(({ name, at }) =>
    clearanceTruths(
      t,
      bite,
      name,
      places.filter((p) => Math.hypot(p[0] - at[0], p[1] - at[1]) <= CUSP),
    ),
  );
  const ys = places.map((p) => p[1]);
  for (const gauge of [1, 1.5, 2]) {
    const caught = places.filter((p) => opposing(p, gauge) < gauge).map((p) => p[1]);
    if (caught.length === 0) continue;
    const name = `gauge.catch(${gauge.toFixed(1)})`;
    out.push(
      { name, zone: 'facial', stat: 'value', value: Math.max(...ys) - Math.max(...caught) },
      { name, zone: 'lingual', stat: 'value', value: Math.min(...caught) - Math.min(...ys) },
    );
  }
  return out;
}

/** Degrees to both sides of lingual, mm over the end of the lingual wall, and mm under the edge between which the fossa lies; likewise the cingulum. */
const FOSSA = { arc: 45, over: 0.3, under: 0.8 } as const;
const CINGULUM = { arc: 30, reach: 0.4 } as const;

/** Clearances of an anterior tooth's lingual fossa and cingulum; `end` is the height at which its lingual wall ends. */
export function lingualBite(t: ImplicitTooth, body: Body, bite: Bite, end: number): Truth[] {
  const [x0, y0] = middleOf(landmarks(t).gingivalMargin);
  const places = surfaceOf(body, [-t.md / 2, -t.fl / 2, end - 1], [t.md / 2, 1, t.h + 1]);
  const top = Math.max(...places.map((p) => p[2]));
  const within = ([x, y]: Vec3, arc: number): boolean => Math.abs(Math.atan2(x - x0, y0 - y)) <= arc * RAD;
  const fossa = places.filter((p) => within(p, FOSSA.arc) && p[2] >= end + FOSSA.over && p[2] <= top - FOSSA.under);
  const cingulum = places.filter((p) => within(p, CINGULUM.arc) && Math.abs(p[2] - end) <= CINGULUM.reach);
  return [...clearanceTruths(t, bite, 'lingual fossa', fossa), ...clearanceTruths(t, bite, 'cingulum', cingulum)];
}
