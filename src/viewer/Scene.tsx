import { Canvas, useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef } from 'react';
import * as THREE from 'three';
import { type DepthBands, depthColour, partColour, partOf } from '#contract/depth-ramp.ts';
import type { DisplayHeader, DisplayMesh } from '#contract/display.ts';
import { Controls, type View } from './Camera.tsx';
import { DrawnFlag } from './Drawn.tsx';
import type { Link } from './link.ts';
import { MasterLines } from './MasterLines.tsx';
import { Plate } from './Plate.tsx';
import { hand, over } from './pointer.ts';

interface Mark {
  readonly id: number;
  readonly point: readonly number[];
  readonly strong: boolean;
  /** Drawn instead of the plain mark. */
  readonly number: number | null;
  readonly about: string;
}

export interface SceneProps {
  readonly header: DisplayHeader;
  readonly meshes: readonly DisplayMesh[];
  readonly bands: DepthBands;
  readonly shown: { readonly depth: boolean; readonly parts: boolean; readonly master: boolean; readonly opposing: boolean };
  /** mm by which the opposing arch is moved, in the display frame. */
  readonly opposingAt?: readonly number[] | null;
  /** Requested camera view; a new object starts a new flight. */
  readonly view: View;
  readonly azimuth: number;
  readonly pin: readonly number[] | null;
  /** Readings that are looked at: the master's lines that they are taken from are drawn. */
  readonly readings?: readonly string[];
  /** Places that were marked by hand: those of the line in focus stand out. */
  readonly marks?: readonly Mark[];
  readonly onMark?: (id: number) => void;
  /** While an instrument is in the hand, where it is set down on the tooth. */
  readonly onPlace?: ((p: readonly [number, number, number]) => void) | null;
  /** With empty hands, what the pointer passes over; null when it leaves the tooth. */
  readonly onOver?: (p: readonly [number, number, number] | null) => void;
  /** Place of the probe's tip, and the place measured from. */
  readonly tip?: readonly number[] | null;
  readonly from?: readonly number[] | null;
  /** Turns together with other pictures. */
  readonly link?: Link;
  /** Colours of the scan's vertices in place of the depth's, three a vertex. */
  readonly colours?: Float32Array | null;
  /** A gauge between the tooth and the arch over it. */
  readonly slab?: {
    readonly at: readonly number[];
    readonly to: readonly number[];
    readonly thickness: number;
    readonly passes: boolean | null;
  } | null;
}

/** The prepared tooth in the display frame: z occlusal, y facial, x mesial or distal by quadrant. Draws on demand. */
export function Scene(props: SceneProps) {
  return (
    <Canvas
      flat
      frameloop="demand"
      dpr={1}
      gl={{ antialias: false, preserveDrawingBuffer: true }}
      camera={{ fov: 26, near: 1, far: 200, up: [0, 0, 1], position: [8, 26, 26] }}
      role="img"
      aria-label="The prepared tooth in three dimensions; the criteria list says the same in words"
    >
      <color attach="background" args={['#e9eeeb']} />
      <ambientLight intensity={0.85} />
      <directionalLight position={[-22, 16, 14]} intensity={1.75} />
      <directionalLight position={[20, -16, 10]} intensity={0.5} />
      <Contents {...props} />
      <Controls view={props.view} mesialSign={props.header.mesialSign} link={props.link} />
      <DrawnFlag />
    </Canvas>
  );
}

function geometryOf(m: DisplayMesh): THREE.BufferGeometry {
  const g = new THREE.BufferGeometry();
  g.setAttribute('position', new THREE.BufferAttribute(m.positions, 3));
  g.setIndex(new THREE.BufferAttribute(m.indices, 1));
  g.computeVertexNormals();
  return g;
}

/** mm beyond the target tooth's own extent at which a look along the arch is cut: a little inside, where the neighbours touch it. */
const FREE = -0.08;

/** Degrees from straight mesial or distal within which a neighbour stands in the line of sight. */
const ALONG = 40;

const NONE: readonly string[] = [];

function Contents({
  header,
  meshes,
  bands,
  shown,
  view,
  azimuth,
  pin,
  readings = NONE,
  marks = [],
  onMark,
  onPlace,
  onOver,
  tip,
  from,
  slab,
  opposingAt,
  colours: own,
}: SceneProps) {
  const invalidate = useThree((s) => s.invalidate);
  const parts = useMemo(() => new Map(meshes.map((m) => [m.name, { mesh: m, geometry: geometryOf(m) }])), [meshes]);
  useEffect(() => {
    const scan = parts.get('scan');
    if (!scan) return;
    const n = scan.mesh.positions.length / 3;
    const colours = own ?? new Float32Array(n * 3);
    for (let v = 0; v < (own ? 0 : n); v++) {
      const code = scan.mesh.surface?.[v] ?? 0;
      const plain = [0.92, 0.9, 0.84] as const;
      const c = shown.parts ? partColour(partOf(code)) : shown.depth ? depthColour(scan.mesh.depth?.[v] ?? 0, code, bands) : plain;
      colours.set(c, 3 * v);
    }
    scan.geometry.setAttribute('color', new THREE.BufferAttribute(colours, 3));
    invalidate();
  }, [parts, bands, shown.depth, shown.parts, own, invalidate]);
  useEffect(
    () => () => {
      for (const p of parts.values()) p.geometry.dispose();
    },
    [parts],
  );
  const finish = useMemo(() => {
    const g = new THREE.BufferGeometry().setFromPoints(header.finishLine.map((p) => new THREE.Vector3(...p)));
    return new THREE.LineLoop(g, new THREE.LineBasicMaterial({ color: '#0b5563', depthTest: false, transparent: true }));
  }, [header]);
  const plane = useMemo(() => {
    const a = (azimuth * Math.PI) / 180;
    const d = new THREE.Vector3(Math.sin(a) * header.mesialSign, Math.cos(a), 0);
    const points = [
      d.clone().multiplyScalar(-7.5).setZ(-1.5),
      d.clone().multiplyScalar(7.5).setZ(-1.5),
      d.clone().multiplyScalar(7.5).setZ(8),
      d.clone().multiplyScalar(-7.5).setZ(8),
    ];
    return new THREE.LineLoop(
      new THREE.BufferGeometry().setFromPoints(points),
      new THREE.LineBasicMaterial({ color: '#5d6b70', transparent: true, opacity: 0.55 }),
    );
  }, [azimuth, header.mesialSign]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: whatever is drawn differently asks for a new picture
  useEffect(() => invalidate(), [shown, pin, plane, marks, tip, from, slab, opposingAt, invalidate]);
  const held = useRef(false);
  const controls = useThree((s) => s.controls) as { enabled: boolean } | null;
  // Looked at along the arch, a neighbour would stand in front of the preparation.
  const along =
    'across' in view || 'along' in view
      ? false
      : 'name' in view
        ? view.name === 'mesial' || view.name === 'distal'
        : Math.abs((((view.azimuth % 180) + 180) % 180) - 90) <= ALONG;
  const gl = useThree((s) => s.gl);
  const clips = useMemo(() => {
    const m = parts.get('master')?.mesh.positions;
    if (!along || !m) return [];
    let [lo, hi] = [Infinity, -Infinity];
    for (let i = 0; i < m.length; i += 3) {
      lo = Math.min(lo, m[i]);
      hi = Math.max(hi, m[i]);
    }
    return [new THREE.Plane(new THREE.Vector3(-1, 0, 0), hi + FREE), new THREE.Plane(new THREE.Vector3(1, 0, 0), FREE - lo)];
  }, [along, parts]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: other cutting planes ask for a new picture
  useEffect(() => {
    gl.localClippingEnabled = true;
    invalidate();
  }, [gl, clips, invalidate]);
  const scan = parts.get('scan');
  const master = parts.get('master');
  const opposing = parts.get('opposing');
  const plate = readings.some((r) => r.startsWith('plate.')) ? parts.get('plate') : undefined;
  return (
    <>
      {scan && (
        <mesh geometry={scan.geometry} {...(onPlace ? hand(onPlace, held, controls) : onOver ? over(onOver) : {})}>
          <meshLambertMaterial vertexColors side={THREE.DoubleSide} clippingPlanes={clips} />
        </mesh>
      )}
      {master && shown.master && (
        <mesh geometry={master.geometry} renderOrder={2}>
          <meshLambertMaterial color="#7fa3a8" transparent opacity={0.28} depthWrite={false} />
        </mesh>
      )}
      {opposing && shown.opposing && (
        <mesh
          geometry={opposing.geometry}
          position={opposingAt ? [opposingAt[0], opposingAt[1], opposingAt[2]] : [0, 0, 0]}
          renderOrder={3}
        >
          <meshLambertMaterial color="#c9c2b4" transparent opacity={0.5} depthWrite={false} side={THREE.DoubleSide} />
        </mesh>
      )}
      {plate && <Plate geometry={plate.geometry} of={plate.mesh.depth} least={bands.plate ?? null} />}
      <primitive object={finish} renderOrder={4} />
      <MasterLines header={header} readings={readings} />
      <primitive object={plane} />
      {marks.map((m) => (
        // biome-ignore lint/a11y/noStaticElementInteractions: drawn in a canvas; the criteria list has the same pins as buttons
        <mesh
          key={m.id}
          position={[m.point[0], m.point[1], m.point[2]]}
          renderOrder={6}
          onClick={(e) => {
            e.stopPropagation();
            onMark?.(m.id);
          }}
        >
          <octahedronGeometry args={[m.strong ? 0.34 : 0.22]} />
          <meshBasicMaterial color={m.strong ? '#9b1c1c' : '#4d5b63'} depthTest={false} transparent />
          {m.number !== null && <Figure of={m.number} strong={m.strong} />}
        </mesh>
      ))}
      {[tip, from].map(
        (p, i) =>
          p && (
            <mesh key={i === 0 ? 'tip' : 'from'} position={[p[0], p[1], p[2]]} renderOrder={7}>
              <sphereGeometry args={[0.14, 12, 8]} />
              <meshBasicMaterial color="#0b5563" depthTest={false} transparent />
            </mesh>
          ),
      )}
      {slab && <Slab {...slab} />}
      {pin && (
        <mesh position={[pin[0], pin[1], pin[2]]} renderOrder={5}>
          <sphereGeometry args={[0.22, 16, 12]} />
          <meshBasicMaterial color="#16202b" depthTest={false} transparent />
        </mesh>
      )}
    </>
  );
}

/** A number that faces the camera over its mark. */
function Figure({ of, strong }: { of: number; strong: boolean }) {
  const map = useMemo(() => {
    const canvas = document.createElement('canvas');
    canvas.width = 64;
    canvas.height = 64;
    const pen = canvas.getContext('2d') as CanvasRenderingContext2D;
    pen.fillStyle = strong ? '#9b1c1c' : '#4d5b63';
    pen.beginPath();
    pen.arc(32, 32, 30, 0, 2 * Math.PI);
    pen.fill();
    pen.fillStyle = '#ffffff';
    pen.font = 'bold 40px sans-serif';
    pen.textAlign = 'center';
    pen.textBaseline = 'middle';
    pen.fillText(String(of), 32, 35);
    return new THREE.CanvasTexture(canvas);
  }, [of, strong]);
  useEffect(() => () => map.dispose(), [map]);
  return (
    <sprite scale={[1, 1, 1]} renderOrder={7}>
      <spriteMaterial map={map} depthTest={false} />
    </sprite>
  );
}

/** A slab standing on the tooth towards the arch over it. */
function Slab({ at, to, thickness, passes }: NonNullable<SceneProps['slab']>) {
  const along = new THREE.Vector3(to[0] - at[0], to[1] - at[1], to[2] - at[2]).normalize();
  const turn = new THREE.Quaternion().setFromUnitVectors(new THREE.Vector3(0, 0, 1), along);
  const middle = new THREE.Vector3(at[0], at[1], at[2]).addScaledVector(along, thickness / 2);
  const colour = passes === null ? '#4d5b63' : passes ? '#0b5563' : '#a34a00';
  return (
    <mesh position={middle} quaternion={turn} renderOrder={5}>
      <boxGeometry args={[3, 3, thickness]} />
      <meshLambertMaterial color={colour} transparent opacity={0.72} depthWrite={false} />
    </mesh>
  );
}
