import { closedCentroid } from '../linalg/curve.ts';
import { angleBetween, cross, dot, scale, sub, unit, type Vec3 } from '../linalg/vec.ts';
import { type MasterDescription, PART } from '../master/master.ts';
import type { Mesh } from '../mesh/mesh.ts';
import { smoothed } from '../mesh/smoothed.ts';
import { Fault } from '../result/fault.ts';
import { makeSurface, type Surface } from '../spatial/surface.ts';
import { type ArchFound, bestFit, findTeeth } from './arch.ts';
import { cejOf } from './cej.ts';
import { type Coverage, coverageOf } from './coverage.ts';
import { contactWith, marksOn, partSurface } from './landmarks.ts';
import { type MarginFound, marginOf } from './margin.ts';
import { parting } from './parting.ts';
import { handed, handedPoint, mirror, templateOf } from './template.ts';
import { type Upward, upward } from './upward.ts';

export const PROPOSED = ['parts', 'axis', 'mesial', 'cusps', 'grooves', 'ridges', 'contacts', 'gingivalMargin'] as const;
export type ProposedName = (typeof PROPOSED)[number];

/** How far a proposal can be trusted: taken as it is, looked at by a person, or asked for because it could not be found. */
export type Trust = 'sure' | 'look' | 'ask';

export interface Proposal {
  readonly description: Omit<MasterDescription, 'name'>;
  /** Part of each vertex of the mesh. */
  readonly parts: Uint8Array;
  readonly trust: Readonly<Record<ProposedName, Trust>>;
  /** Teeth found in the arch, with how well the usual form lies on them (mm). */
  readonly teeth: readonly { readonly tooth: string; readonly rms: number; readonly share: number }[];
  /** How much worse the tooth fits the other way round. */
  readonly turnedAbout: number;
  /** How much better the form of the same tooth of the other side lies there, mirrored: over 1.5 the scan is mirrored, or the tooth another. */
  readonly mirrored: number;
  readonly coverage: Coverage;
  /** Degrees round the tooth over which a cementoenamel junction shows; 0 where none does. */
  readonly cejSeen_deg: number;
  readonly up: Vec3;
}

/** mm and shares by which a laid form is close enough for what hangs on it. */
const GOOD = { rms: 0.12, share: 0.7, about: 1.6 } as const;
const FAIR = { rms: 0.3, share: 0.4, about: 1.3 } as const;
/** Share of the margin that must be seen for its plane to give the long axis, and degrees by which that may differ from the form's. */
const PLANE_FROM = 0.6;
const AGREE = 4;
/** mm that a margin may stand out at one place and still be sure, and degrees of it that a neighbour may hide in one stretch. */
const UNEVEN = 0.35;
const HIDDEN = 25;

const trusted = (good: boolean, fair: boolean): Trust => (good ? 'sure' : fair ? 'look' : 'ask');

/** What a person said beyond the touch: which way is up, and any place to mesial of the touched one. */
export interface Hints {
  readonly up?: Vec3;
  readonly mesialward?: Vec3;
}

/** Passes of smoothing before anything is looked for: hollows are second derivatives, of which a hundredth of a millimetre of noise leaves nothing. */
const PASSES = 8;
/** mm round the touch whose surface tells which way it looks. */
const TOUCH = 2;

/** A person touches what bites: the surface there looks upward, whatever the whole scan says. */
function facing(scan: Surface, touched: Vec3, found: Upward): Upward {
  const p = scan.mesh.positions;
  let sum = 0;
  for (let v = 0; v < scan.vertexAreas.length; v++) {
    if (Math.hypot(p[3 * v] - touched[0], p[3 * v + 1] - touched[1], p[3 * v + 2] - touched[2]) > TOUCH) continue;
    const n: Vec3 = [scan.vertexNormals[3 * v], scan.vertexNormals[3 * v + 1], scan.vertexNormals[3 * v + 2]];
    sum += scan.vertexAreas[v] * dot(n, found.direction);
  }
  return sum < 0 ? { direction: scale(found.direction, -1), sure: 0 } : found;
}

/**
 * Everything that a master needs, proposed from the scan of an unprepared arch, the tooth's number, and one touch on it. The usual form of
 * that tooth is laid on the scan; its axes and landmarks are carried over and brought to the scan's own tips and valleys; parts come from the
 * valleys between teeth and gingiva.
 * @units mm, in the scan's frame
 * @fails scan.shape, where nothing like that tooth lies at the touched place
 */
export function propose(mesh: Mesh, tooth: string, touched: Vec3, hints: Hints = {}): Proposal {
  const own = smoothed(handed(mesh, tooth), PASSES);
  const scan = makeSurface(own);
  const found = hints.up ? { direction: handedPoint(hints.up, tooth), sure: 1 } : facing(scan, handedPoint(touched, tooth), upward(own));
  const arch = findTeeth(
    scan,
    tooth,
    handedPoint(touched, tooth),
    found.direction,
    hints.mesialward ? handedPoint(hints.mesialward, tooth) : null,
  );
  const form = arch.target.laid;
  const part = parting(own, arch, handedPoint(touched, tooth));
  const target = partSurface(own, part.parts, 1);
  if (!target)
    throw new Fault('master.part', {
      expected: `a crown like a ${tooth} at the place that was touched`,
      received: 'no surface there that its usual form lies on',
      remedy: 'Touch the middle of its biting surface, and check the tooth’s number.',
    });
  const margin = marginOf(own, part, form, templateOf(tooth).shape, scan.borderVertex);
  const junction = cejOf(own, part, form, margin.curve);
  const axis = margin.seen > PLANE_FROM ? planeNormal(margin.curve, form.axes[2]) : form.axes[2];
  const laid = { ...form, axes: square(axis, form.axes[0]) };
  const marks = marksOn(target, tooth, form);
  const contact = (side: 'mesial' | 'distal'): Vec3 | null => contactWith(own, part.parts, target, form, side);
  const back = (p: Vec3): Vec3 => handedPoint(p, tooth);
  const cuspsBeside = (side: 'mesial' | 'distal'): Vec3[] => {
    const found = arch[side][0];
    const surface = found && found.laid.rms < FAIR.rms ? partSurface(own, part.parts, PART[side]) : null;
    return surface && found ? marksOn(surface, found.tooth, found.laid).cusps.map((c) => c.at) : [];
  };
  const contacts = { mesial: contact('mesial'), distal: contact('distal') };
  return {
    description: {
      tooth,
      axis: back(laid.axes[2]),
      mesial: back(laid.axes[0]),
      facial: back(laid.axes[1]),
      cusps: marks.cusps.map(({ name, role, at }) => ({ name, role, at: back(at) })),
      grooves: marks.grooves.map((g) => ({ ...g, line: g.line.map(back) })),
      ridges: {
        mesial: marks.ridges.mesial.map(back),
        distal: marks.ridges.distal.map(back),
        oblique: marks.ridges.oblique.map(back),
      },
      contacts: { mesial: contacts.mesial && back(contacts.mesial), distal: contacts.distal && back(contacts.distal) },
      gingivalMargin: margin.curve.map(back),
      ...(junction ? { cej: junction.line.map(back) } : {}),
      neighbourCusps: { mesial: cuspsBeside('mesial').map(back), distal: cuspsBeside('distal').map(back) },
    },
    parts: part.parts,
    coverage: coverageOf(
      own,
      part.parts,
      form,
      margin,
      { tooth, mesial: arch.mesial.length > 0, distal: arch.distal.length > 0 },
      scan.borderVertex,
    ),
    cejSeen_deg: junction?.seen_deg ?? 0,
    trust: trustOf(arch, part.unsure, margin, marks.cusps, contacts, angleBetween(axis, form.axes[2])),
    teeth: [arch.target, ...arch.mesial, ...arch.distal].map((f) => ({ tooth: f.tooth, rms: f.laid.rms, share: f.laid.share })),
    turnedAbout: arch.turnedAbout,
    mirrored: form.rms / Math.max(1e-6, mirroredFit(own, tooth, handedPoint(touched, tooth), found.direction)),
    up: back(found.direction),
  };
}

/**
 * Normal of the plane that a closed curve lies in best, on the side of `like`: half the sum of the cross products of its sides.
 * The gingival margin's plane stands across the long axis; on teeth of unusual form it gives the axis better than the form does.
 * @source Newell's method
 */
function planeNormal(curve: readonly Vec3[], like: Vec3): Vec3 {
  const m = closedCentroid(curve);
  const sum = [0, 0, 0];
  curve.forEach((p, i) => {
    const n = cross(sub(p, m), sub(curve[(i + 1) % curve.length], m));
    for (let k = 0; k < 3; k++) sum[k] += n[k];
  });
  const n = unit([sum[0], sum[1], sum[2]]);
  return dot(n, like) < 0 ? scale(n, -1) : n;
}

/** Three axes at right angles: occlusal as given, mesial as near as it can be. */
function square(z: Vec3, mesial: Vec3): [Vec3, Vec3, Vec3] {
  const x = unit(sub(mesial, scale(z, dot(mesial, z))));
  return [x, cross(z, x), z];
}

/** mm by which the form misses the scan seen in a mirror. */
function mirroredFit(own: Mesh, tooth: string, touched: Vec3, up: Vec3): number {
  const flip = (p: Vec3): Vec3 => [p[0], -p[1], p[2]];
  return bestFit(makeSurface(mirror(own)), tooth, flip(touched), flip(up)).rms;
}

function trustOf(
  arch: ArchFound,
  unsureParts: number,
  margin: Omit<MarginFound, 'curve'>,
  cusps: readonly { off: number }[],
  contacts: { mesial: Vec3 | null; distal: Vec3 | null },
  apart: number,
): Proposal['trust'] {
  const { rms, share } = arch.target.laid;
  const form = trusted(rms < GOOD.rms && share > GOOD.share, rms < FAIR.rms && share > FAIR.share);
  const neighbours = [arch.mesial[0], arch.distal[0]];
  const around = neighbours.every((f) => f && f.laid.rms < FAIR.rms);
  return {
    parts: trusted(around && unsureParts < 0.1 && form !== 'ask', unsureParts < 0.3),
    axis: trusted(apart < AGREE && margin.seen > PLANE_FROM, margin.seen > PLANE_FROM || form !== 'ask'),
    // A crown alone may fit nearly as well turned about; its neighbours say which way the row runs.
    mesial: trusted(arch.turnedAbout > GOOD.about && form !== 'ask', arch.turnedAbout > FAIR.about && around),
    cusps: trusted(form === 'sure' && cusps.every((c) => c.off < 0.6), cusps.length > 0),
    grooves: form === 'sure' ? 'sure' : 'look',
    ridges: form === 'sure' ? 'sure' : 'look',
    contacts: trusted(Boolean(contacts.mesial && contacts.distal), Boolean(contacts.mesial || contacts.distal)),
    gingivalMargin: trusted(
      margin.seen > 0.85 && margin.widestGap_deg <= HIDDEN && margin.uneven < UNEVEN && unsureParts < 0.1,
      margin.seen > 0.4,
    ),
  };
}
