import { applyDirection, applyPoint } from '../linalg/rigid.ts';
import { cross, dot, scale, sub, unit, type Vec3 } from '../linalg/vec.ts';
import { type Master, type MasterDescription, PART } from '../master/master.ts';
import type { Mesh } from '../mesh/mesh.ts';
import { Fault } from '../result/fault.ts';
import { closestPoint, makeSurface, newClosest } from '../spatial/surface.ts';
import { type Form, type Laid, layOn, toScan } from './fit.ts';
import { partSurface } from './landmarks.ts';
import { handed, handedPoint } from './template.ts';

/** mm by which a tooth taken over may miss the scan, and the share of it that must lie there. */
const NEAR = { rms: 0.3, share: 0.4 } as const;
const FIT = { points: 1500, rounds: 30, reach: [1.5, 0.3], stretch: 0.03 } as const;
/** mm over the highest place of the margin from which a master's own points are laid on. */
const FREE = -0.2;

export interface Carried {
  readonly description: Omit<MasterDescription, 'name' | 'tooth'>;
  /** mm: how far the tooth taken over misses this one. */
  readonly rms: number;
}

/**
 * Marks taken over from another master of the same tooth, or of the same tooth of the other side: its crown is laid on this one from where
 * the marks already stand, and its marks are carried with it onto the surface. Tooth frames of left and right quadrants are each other's
 * mirror images, so that one fit serves both.
 * @units mm, in the scan's frame
 * @fails master.part, where that crown does not lie on this one
 */
export function carryMarks(from: Master, to: { mesh: Mesh; parts: Uint8Array; tooth: string; at: MasterDescription }): Carried {
  const own = handed(to.mesh, to.tooth);
  const scan = makeSurface(own);
  const side = (p: Vec3): Vec3 => handedPoint(p, to.tooth);
  const axis = unit(side(to.at.axis));
  const mesial = side(to.at.mesial);
  const x = unit(sub(mesial, scale(axis, dot(mesial, axis))));
  const margin = to.at.gingivalMargin.map(side);
  const middle = [0, 1, 2].map((k) => margin.reduce((s, p) => s + p[k], 0) / margin.length) as [number, number, number];
  const laid = layOn(scan, crownOf(from), { axes: [x, cross(axis, x), axis], at: middle, size: [1, 1, 1] }, FIT);
  if (laid.rms > NEAR.rms || laid.share < NEAR.share)
    throw new Fault('master.part', {
      expected: 'the marks of a tooth of the same form can be taken over',
      received: `“${from.description.name}” lies ${laid.rms.toFixed(2)} mm off on this tooth`,
      remedy: 'Choose a master of the same series, or correct the marks one by one.',
    });
  return { description: described(from, laid, own, to), rms: laid.rms };
}

/** A master's crown as a form to lay on, in its tooth frame. */
function crownOf(m: Master): Form {
  const { mesh, vertexNormals } = m.target;
  const low = Math.max(...m.landmarks.gingivalMargin.map((p) => p[2])) + FREE;
  const points: number[] = [];
  const normals: number[] = [];
  for (let v = 0; v < mesh.positions.length; v += 3) {
    if (mesh.positions[v + 2] < low) continue;
    points.push(mesh.positions[v], mesh.positions[v + 1], mesh.positions[v + 2]);
    normals.push(vertexNormals[v], vertexNormals[v + 1], vertexNormals[v + 2]);
  }
  return { points: Float64Array.from(points), normals: Float64Array.from(normals) };
}

function described(from: Master, laid: Laid, own: Mesh, to: { parts: Uint8Array; tooth: string }): Carried['description'] {
  const target = partSurface(own, to.parts, PART.target) ?? makeSurface(own);
  const hit = newClosest();
  const back = (p: Vec3): Vec3 => handedPoint(p, to.tooth);
  const free = (p: Vec3): Vec3 => back(toScan(laid, p));
  const onto = (p: Vec3): Vec3 => {
    const q = toScan(laid, p);
    return back(closestPoint(target, q[0], q[1], q[2], hit, 1.5) ? [hit.x, hit.y, hit.z] : q);
  };
  const l = from.landmarks;
  const d = from.description;
  const inTooth = (p: Vec3): Vec3 => applyPoint(from.toTooth, p);
  const way = (v: Vec3): Vec3 => {
    const q = applyDirection(from.toTooth, v);
    return back(
      unit([0, 1, 2].map((k) => laid.axes[0][k] * q[0] + laid.axes[1][k] * q[1] + laid.axes[2][k] * q[2]) as [number, number, number]),
    );
  };
  return {
    axis: way(d.axis),
    mesial: way(d.mesial),
    facial: way(d.facial),
    cusps: l.cusps.map((c) => ({ ...c, at: onto(c.at) })),
    grooves: l.grooves.map((g) => ({ ...g, line: g.line.map(onto) })),
    ridges: { mesial: l.ridges.mesial.map(onto), distal: l.ridges.distal.map(onto), oblique: l.ridges.oblique.map(onto) },
    contacts: { mesial: l.contacts.mesial && onto(l.contacts.mesial), distal: l.contacts.distal && onto(l.contacts.distal) },
    gingivalMargin: l.gingivalMargin.map(free),
    ...(d.neighbourCusps
      ? {
          neighbourCusps: {
            mesial: d.neighbourCusps.mesial.map((p) => free(inTooth(p))),
            distal: d.neighbourCusps.distal.map((p) => free(inTooth(p))),
          },
        }
      : {}),
    ...(d.cej ? { cej: d.cej.map((p) => onto(inTooth(p))) } : {}),
  };
}

/** Whether two masters' teeth are the same one, or the same one of the two sides. */
export const isCounterpart = (a: string, b: string): boolean =>
  a[1] === b[1] && (a[0] === b[0] || ['12', '21', '34', '43', '56', '65', '78', '87'].includes(a[0] + b[0]));
