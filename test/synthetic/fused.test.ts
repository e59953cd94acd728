import { describe, expect, it } from 'vitest';
import type { Vec3 } from '#core/linalg/vec.ts';
import { withContactsClosed } from '#core/master/contact-caps.ts';
import { bridged } from '#core/master/fused.ts';
import { type Master, neighbourClosed } from '#core/master/master.ts';
import { makeMesh } from '#core/mesh/mesh.ts';
import { closestPoint, makeSurface, newClosest, onBorder, signedDistance } from '#core/spatial/surface.ts';

/** A strip along x of 0.1 mm squares, each vertex labelled by its place. */
function strip(labelAt: (x: number) => number): { mesh: ReturnType<typeof makeMesh<'tooth'>>; parts: number[]; xs: number[] } {
  const positions: number[] = [];
  const parts: number[] = [];
  const xs: number[] = [];
  const triangles: number[] = [];
  for (let i = 0; i <= 60; i++)
    for (const y of [0, 0.1]) {
      const x = i / 10 - 3;
      positions.push(x, y, 0);
      parts.push(labelAt(x));
      xs.push(x);
    }
  for (let i = 0; i < 60; i++) triangles.push(2 * i, 2 * i + 2, 2 * i + 1, 2 * i + 1, 2 * i + 2, 2 * i + 3);
  return { mesh: makeMesh('tooth', Float64Array.from(positions), Uint32Array.from(triangles)), parts, xs };
}

/** A gingival margin round the strip, so many mm under it. */
const marginAt = (under: number): Vec3[] => Array.from({ length: 12 }, (_, k) => [6 * Math.sin(k / 1.9), 6 * Math.cos(k / 1.9), -under]);
const LOW = marginAt(2);

describe('a master whose scan closed the gap beside a contact', () => {
  it('has its bridge marked up to 0.6 mm to both sides', () => {
    const { mesh, parts, xs } = strip((x) => (x < 0 ? 1 : 2));
    const near = bridged(mesh, parts, 1, [2, 3], LOW);
    expect(xs.filter((x, v) => Math.abs(x) < 0.5 && !near[v])).toEqual([]);
    expect(xs.filter((x, v) => Math.abs(x) > 0.85 && near[v])).toEqual([]);
  });
  it('has none at the height of the gingival margin: a coarse gum has triangles from tooth to tooth', () => {
    const { mesh, parts } = strip((x) => (x < 0 ? 1 : 2));
    expect(bridged(mesh, parts, 1, [2, 3], marginAt(0.2)).some(Boolean)).toBe(false);
  });
  it('has none between a tooth and the gingiva, or between others', () => {
    const gum = strip((x) => (x < 0 ? 1 : 4));
    expect(bridged(gum.mesh, gum.parts, 1, [2, 3], LOW).some(Boolean)).toBe(false);
    const others = strip((x) => (x < 0 ? 2 : 3));
    expect(bridged(others.mesh, others.parts, 1, [2, 3], LOW).some(Boolean)).toBe(false);
  });
});

describe('a target whose contact the scan bridged', () => {
  /** Half a cylinder of radius 5 in squares of 0.2 mm; what `isFused` names stands 1 mm further out and is the neighbour's. */
  const half = (isFused: (along: number, z: number) => boolean) => {
    const positions: number[] = [];
    const parts: number[] = [];
    const triangles: number[] = [];
    const [across, up] = [78, 40];
    for (let j = 0; j <= up; j++)
      for (let i = 0; i <= across; i++) {
        const [along, z] = [0.2 * (i - across / 2), 0.2 * j];
        const fused = isFused(along, z);
        const r = fused ? 6 : 5;
        positions.push(r * Math.cos(along / 5), r * Math.sin(along / 5), z);
        parts.push(fused ? 2 : 1);
      }
    for (let j = 0; j < up; j++)
      for (let i = 0; i < across; i++) {
        const [a, b] = [j * (across + 1) + i, (j + 1) * (across + 1) + i];
        triangles.push(a, a + 1, b, b, a + 1, b + 1);
      }
    const arch = makeMesh('tooth', Float64Array.from(positions), Uint32Array.from(triangles));
    return makeSurface(withContactsClosed(arch, (v) => parts[v] === 1, bridged(arch, parts, 1, [2, 3], LOW)));
  };
  const places = (zs: readonly number[]) => zs.flatMap((z) => [-0.8, 0, 0.8].map((along) => [along / 5, z] as const));

  it.each([
    ['in the middle of its side', (along: number, z: number) => Math.hypot(along, z - 4) < 1.2, places([3.4, 4, 4.6])],
    ['down to its open border', (along: number, z: number) => Math.abs(along) < 1.2 && z < 4, places([1, 2, 3])],
  ] as const)('runs on over the gap %s as its own surface does beside it', (_, isFused, at) => {
    const target = half(isFused);
    const hit = newClosest();
    for (const [a, z] of at)
      for (const off of [-0.3, 0.3]) {
        const r = 5 + off;
        const p = [r * Math.cos(a), r * Math.sin(a), z] as const;
        // Within 0.04 mm of the cylinder, with an inside and an outside.
        expect(Math.abs((signedDistance(target, ...p) ?? Number.NaN) - off)).toBeLessThan(0.04);
        expect(closestPoint(target, ...p, hit) && !onBorder(target, hit)).toBe(true);
      }
  });
  it('closes the neighbour’s contact too, for gaps to it', () => {
    const target = half((along, z) => Math.hypot(along, z - 4) < 1.2);
    const whole = { mesh: target.mesh };
    const parts = new Uint8Array(target.mesh.positions.length / 3).fill(2);
    const mesial = makeSurface(target.mesh);
    const master = (onBridge: Uint8Array) =>
      ({ mesial, distal: null, whole, wholeParts: parts, onBridge, made: new Map() }) as unknown as Master;
    // Nothing bridged, and no such neighbour: what is there is given as it is.
    expect(neighbourClosed(master(new Uint8Array(parts.length)), 'mesial')).toBe(mesial);
    expect(neighbourClosed(master(new Uint8Array(parts.length)), 'distal')).toBeNull();
    // A bridge in the middle of the side: the place there is the cylinder's own again, not the hole's rim.
    const p = target.mesh.positions;
    const onBridge = Uint8Array.from(parts, (_, v) => (Math.hypot(5 * Math.atan2(p[3 * v + 1], p[3 * v]), p[3 * v + 2] - 4) < 1 ? 1 : 0));
    const bridgedMaster = master(onBridge);
    const closed = neighbourClosed(bridgedMaster, 'mesial');
    expect(closed).not.toBeNull();
    if (!closed) return;
    const hit = newClosest();
    closestPoint(closed, 5.3, 0, 4, hit);
    expect(Math.abs(Math.sqrt(hit.distanceSquared) - 0.3)).toBeLessThan(0.04);
    expect(neighbourClosed(bridgedMaster, 'mesial')).toBe(closed);
  });
  it('is left as it is where nothing was bridged', () => {
    const target = half(() => false);
    expect(target.mesh.triangles.length / 3).toBe(78 * 40 * 2);
  });
});
