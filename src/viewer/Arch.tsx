import { Canvas, type ThreeEvent, useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef } from 'react';
import * as THREE from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import type { DisplayMesh } from '#contract/display.ts';
import { DrawnFlag } from './Drawn.tsx';

type P = readonly [number, number, number];

export interface ArchProps {
  readonly mesh: DisplayMesh;
  /** Part of each vertex; other teeth, target, mesial, distal, gingiva. */
  readonly parts: Uint8Array;
  readonly coloured: boolean;
  /** mm from each vertex to what bites against it; colours the arch in place of its parts. */
  readonly gaps?: Float32Array | null | undefined;
  /** What bites against it, moved by so much. */
  readonly opposing?: { readonly mesh: DisplayMesh; readonly shift: P } | null | undefined;
  readonly label: string;
  readonly points: readonly { readonly key: string; readonly at: P; readonly chosen: boolean }[];
  readonly curves: readonly { readonly line: readonly P[]; readonly closed: boolean; readonly strong: boolean }[];
  /** Axis and mesial direction from a place, once they are known. */
  readonly frame: { readonly at: P; readonly axis: P; readonly mesial: P; readonly facial: P } | null;
  readonly look: { readonly from: 'occlusal' | 'facial' | 'lingual' | 'mesial' | 'distal' | null; readonly id: number };
  readonly onTouch?: ((p: [number, number, number]) => void) | undefined;
  readonly onPaint?: ((p: [number, number, number]) => void) | undefined;
  readonly onDrag: (key: string, at: [number, number, number], ended: boolean) => void;
  readonly onChoose: (key: string) => void;
  /** Direction from the picture towards the eye, whenever the look changes. */
  readonly onLook: (towardsEye: [number, number, number]) => void;
}

const TINTS = [
  [0.72, 0.74, 0.74],
  [0.95, 0.9, 0.76],
  [0.66, 0.79, 0.86],
  [0.7, 0.84, 0.74],
  [0.88, 0.73, 0.7],
] as const;

/** Overlap, touch and near: mm up to which each counts, and its tint. */
export const GAP_TINTS = [
  { to: -0.03, tint: [0.48, 0.25, 0.66], word: 'runs into it' },
  { to: 0.05, tint: [0.04, 0.36, 0.42], word: 'touches' },
  { to: 0.5, tint: [0.55, 0.74, 0.78], word: 'nearer than half a millimetre' },
] as const;

/** An arch in its own frame with marks to drag over its surface; dragging anywhere else turns it. */
export function Arch(props: ArchProps) {
  return (
    <Canvas
      flat
      frameloop="demand"
      dpr={1}
      gl={{ antialias: true, preserveDrawingBuffer: true }}
      camera={{ fov: 24, near: 1, far: 900 }}
      role="img"
      aria-label={props.label}
    >
      <color attach="background" args={['#e9eeeb']} />
      <ambientLight intensity={0.9} />
      <Contents {...props} />
      <DrawnFlag />
    </Canvas>
  );
}

function Contents({
  mesh,
  parts,
  coloured,
  gaps,
  opposing,
  points,
  curves,
  frame,
  look,
  onTouch,
  onPaint,
  onDrag,
  onChoose,
  onLook,
}: ArchProps) {
  const { camera, gl, invalidate, raycaster } = useThree();
  const surface = useRef<THREE.Mesh>(null);
  const held = useRef<string | null>(null);
  const painting = useRef(false);
  const controls = useRef<OrbitControls | null>(null);
  const geometry = useMemo(() => {
    const g = new THREE.BufferGeometry();
    g.setAttribute('position', new THREE.BufferAttribute(mesh.positions, 3));
    g.setIndex(new THREE.BufferAttribute(mesh.indices, 1));
    g.setAttribute('color', new THREE.BufferAttribute(new Float32Array(mesh.positions.length), 3));
    g.computeVertexNormals();
    g.computeBoundingSphere();
    return g;
  }, [mesh]);
  const light = useMemo(() => new THREE.DirectionalLight('#ffffff', 1.6), []);
  const centre = useMemo(() => (geometry.boundingSphere as THREE.Sphere).center.clone(), [geometry]);
  const radius = geometry.boundingSphere?.radius ?? 15;
  useEffect(() => {
    const colour = geometry.getAttribute('color') as THREE.BufferAttribute;
    for (let v = 0; v < parts.length; v++) {
      const t = gaps ? (GAP_TINTS.find((g) => gaps[v] <= g.to)?.tint ?? TINTS[1]) : TINTS[coloured ? parts[v] : 1];
      colour.setXYZ(v, t[0], t[1], t[2]);
    }
    colour.needsUpdate = true;
    invalidate();
  }, [geometry, parts, coloured, gaps, invalidate]);
  useEffect(() => {
    const facing = new THREE.Vector3();
    const n = geometry.getAttribute('normal');
    for (let i = 0; i < n.count; i += 3) facing.add(new THREE.Vector3(n.getX(i), n.getY(i), n.getZ(i)));
    if (facing.lengthSq() < 1e-6) facing.set(0, 0, 1);
    camera.position.copy(centre).add(facing.setLength(radius * 4.9));
    camera.up.set(Math.abs(facing.y) > 0.9 * facing.length() ? 1 : 0, Math.abs(facing.y) > 0.9 * facing.length() ? 0 : 1, 0);
    camera.lookAt(centre);
    const c = new OrbitControls(camera, gl.domElement);
    c.target.copy(centre);
    c.enableDamping = false;
    c.update();
    controls.current = c;
    const follow = () => {
      light.position.copy(camera.position).add(new THREE.Vector3(-14, 18, 8));
      light.target.position.copy(c.target);
      light.target.updateMatrixWorld();
      const d = camera.position.clone().sub(c.target).normalize();
      onLook([d.x, d.y, d.z]);
      invalidate();
    };
    c.addEventListener('change', follow);
    follow();
    return () => {
      c.dispose();
      controls.current = null;
    };
  }, [camera, centre, geometry, gl, invalidate, light, onLook, radius]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new request asks for a new look, the frame alone does not
  useEffect(() => {
    const c = controls.current;
    if (!c || !frame || !look.from) return;
    const { axis, mesial, facial, at } = frame;
    const dir = { occlusal: axis, facial, mesial, lingual: facial.map((v) => -v), distal: mesial.map((v) => -v) }[look.from];
    const upright = look.from === 'occlusal' ? facial : axis;
    const up3 = new THREE.Vector3(axis[0], axis[1], axis[2]);
    c.target.set(at[0], at[1], at[2]).addScaledVector(up3, 3);
    camera.up.set(upright[0], upright[1], upright[2]);
    camera.position.copy(c.target).addScaledVector(new THREE.Vector3(dir[0], dir[1], dir[2]), 58);
    c.update();
    invalidate();
  }, [look.id]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: new marks ask for a new picture
  useEffect(() => invalidate(), [points, curves, frame, invalidate]);

  useEffect(() => {
    const el = gl.domElement;
    const at = (e: PointerEvent): [number, number, number] | null => {
      const r = el.getBoundingClientRect();
      const ndc = new THREE.Vector2(((e.clientX - r.left) / r.width) * 2 - 1, 1 - ((e.clientY - r.top) / r.height) * 2);
      raycaster.setFromCamera(ndc, camera);
      const hit = surface.current && raycaster.intersectObject(surface.current)[0];
      return hit ? [hit.point.x, hit.point.y, hit.point.z] : null;
    };
    const move = (e: PointerEvent) => {
      if (held.current) {
        const p = at(e);
        if (p) onDrag(held.current, p, false);
      } else if (painting.current && onPaint) {
        const p = at(e);
        if (p) onPaint(p);
      }
    };
    const up = (e: PointerEvent) => {
      if (held.current) {
        const p = at(e);
        if (p) onDrag(held.current, p, true);
      }
      held.current = null;
      painting.current = false;
      if (controls.current) controls.current.enabled = true;
    };
    el.addEventListener('pointermove', move);
    window.addEventListener('pointerup', up);
    return () => {
      el.removeEventListener('pointermove', move);
      window.removeEventListener('pointerup', up);
    };
  }, [camera, gl, onDrag, onPaint, raycaster]);

  const touch = (e: ThreeEvent<MouseEvent>) => {
    // A click that was the end of a turn is no touch.
    if (!onTouch || e.delta > 3) return;
    e.stopPropagation();
    onTouch([e.point.x, e.point.y, e.point.z]);
  };
  const hold = (key: string) => (e: ThreeEvent<PointerEvent>) => {
    e.stopPropagation();
    held.current = key;
    if (controls.current) controls.current.enabled = false;
    onChoose(key);
  };
  const paint = (e: ThreeEvent<PointerEvent>) => {
    if (!onPaint) return;
    e.stopPropagation();
    painting.current = true;
    if (controls.current) controls.current.enabled = false;
    onPaint([e.point.x, e.point.y, e.point.z]);
  };
  return (
    <>
      <primitive object={light} />
      {/* biome-ignore lint/a11y/noStaticElementInteractions: a mesh in a 3D scene, not an element of the page */}
      <mesh ref={surface} geometry={geometry} onClick={touch} onPointerDown={paint}>
        <meshLambertMaterial vertexColors side={THREE.DoubleSide} />
      </mesh>
      {opposing && <Opposing {...opposing} />}
      {curves.map((c, i) => (
        <Curve key={i} {...c} />
      ))}
      {points.map((p) => (
        <mesh key={p.key} position={[p.at[0], p.at[1], p.at[2]]} renderOrder={3} onPointerDown={hold(p.key)}>
          <sphereGeometry args={[p.chosen ? 0.38 : 0.28, 14, 10]} />
          <meshBasicMaterial color={p.chosen ? '#a34a00' : '#0b5563'} depthTest={false} transparent opacity={0.92} />
        </mesh>
      ))}
      {frame && <Arrow from={frame.at} to={frame.axis} length={13} colour="#16202b" />}
      {frame && <Arrow from={frame.at} to={frame.mesial} length={8} colour="#0b5563" />}
    </>
  );
}

/** The opposing arch, so thin that the arch is seen through it; it is not touched. */
function Opposing({ mesh, shift }: NonNullable<ArchProps['opposing']>) {
  const invalidate = useThree((s) => s.invalidate);
  const geometry = useMemo(() => {
    const g = new THREE.BufferGeometry();
    g.setAttribute('position', new THREE.BufferAttribute(mesh.positions, 3));
    g.setIndex(new THREE.BufferAttribute(mesh.indices, 1));
    g.computeVertexNormals();
    return g;
  }, [mesh]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another place asks for another picture
  useEffect(() => invalidate(), [shift, geometry, invalidate]);
  return (
    <mesh geometry={geometry} position={[shift[0], shift[1], shift[2]]} raycast={() => null} renderOrder={1}>
      <meshLambertMaterial color="#c9b79a" transparent opacity={0.3} side={THREE.DoubleSide} depthWrite={false} />
    </mesh>
  );
}

function Curve({ line, closed, strong }: ArchProps['curves'][number]) {
  const object = useMemo(() => {
    const g = new THREE.BufferGeometry().setFromPoints(
      (closed && line.length ? [...line, line[0]] : line).map((p) => new THREE.Vector3(p[0], p[1], p[2])),
    );
    const m = new THREE.LineBasicMaterial({ color: strong ? '#a34a00' : '#4d5b63', depthTest: false, transparent: true });
    const l = new THREE.Line(g, m);
    l.renderOrder = 2;
    return l;
  }, [line, closed, strong]);
  return <primitive object={object} />;
}

function Arrow({ from, to, length, colour }: { from: P; to: P; length: number; colour: string }) {
  const object = useMemo(
    () =>
      new THREE.ArrowHelper(new THREE.Vector3(to[0], to[1], to[2]), new THREE.Vector3(from[0], from[1], from[2]), length, colour, 1.2, 0.7),
    [from, to, length, colour],
  );
  return <primitive object={object} />;
}
