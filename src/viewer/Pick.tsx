import { Canvas, type ThreeEvent, useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import * as THREE from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import type { DisplayMesh } from '#contract/display.ts';

interface Props {
  readonly mesh: DisplayMesh;
  readonly points: readonly (readonly [number, number, number])[];
  readonly label: string;
  readonly onPick: (p: [number, number, number]) => void;
}

const COLOURS = ['#a34a00', '#0b5563', '#5b2f8f'];

/** A mesh in its own frame; a click sets a point, dragging turns the mesh. */
export function Pick(props: Props) {
  return (
    <Canvas
      flat
      frameloop="demand"
      dpr={1}
      gl={{ antialias: false, preserveDrawingBuffer: true }}
      camera={{ fov: 26, near: 1, far: 400 }}
      role="img"
      aria-label={props.label}
    >
      <color attach="background" args={['#e9eeeb']} />
      <ambientLight intensity={0.85} />
      <Contents {...props} />
    </Canvas>
  );
}

function Contents({ mesh, points, onPick }: Props) {
  const { camera, gl, invalidate } = useThree();
  const geometry = useMemo(() => {
    const g = new THREE.BufferGeometry();
    g.setAttribute('position', new THREE.BufferAttribute(mesh.positions, 3));
    g.setIndex(new THREE.BufferAttribute(mesh.indices, 1));
    g.computeVertexNormals();
    g.computeBoundingSphere();
    return g;
  }, [mesh]);
  const light = useMemo(() => new THREE.DirectionalLight('#ffffff', 1.7), []);
  useEffect(() => {
    const sphere = geometry.boundingSphere as THREE.Sphere;
    // Open shells look the way their area faces: from there one sees the teeth.
    const facing = new THREE.Vector3();
    const n = geometry.getAttribute('normal');
    for (let i = 0; i < n.count; i++) facing.add(new THREE.Vector3(n.getX(i), n.getY(i), n.getZ(i)));
    if (facing.lengthSq() < 1e-6) facing.set(0, 0, 1);
    camera.position.copy(sphere.center).add(facing.setLength(sphere.radius * 4.6));
    camera.up.set(Math.abs(facing.y) > 0.9 * facing.length() ? 1 : 0, Math.abs(facing.y) > 0.9 * facing.length() ? 0 : 1, 0);
    camera.lookAt(sphere.center);
    const c = new OrbitControls(camera, gl.domElement);
    c.target.copy(sphere.center);
    c.enableDamping = false;
    // Scans stand anywhere: without this the camera still looks at the origin.
    c.update();
    const follow = () => {
      light.position.copy(camera.position).add(new THREE.Vector3(-10, 14, 6));
      light.target.position.copy(sphere.center);
      light.target.updateMatrixWorld();
      invalidate();
    };
    c.addEventListener('change', follow);
    follow();
    return () => {
      c.dispose();
      geometry.dispose();
    };
  }, [camera, geometry, gl, invalidate, light]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new point asks for a new picture
  useEffect(() => invalidate(), [points, invalidate]);
  const pick = (e: ThreeEvent<MouseEvent>) => {
    // A click that was the end of a turn is no point.
    if (e.delta > 3) return;
    e.stopPropagation();
    onPick([e.point.x, e.point.y, e.point.z]);
  };
  return (
    <>
      <primitive object={light} />
      {/* biome-ignore lint/a11y/noStaticElementInteractions: a mesh in a 3D scene, not an element of the page */}
      <mesh geometry={geometry} onClick={pick}>
        <meshLambertMaterial color="#e8e2d2" side={THREE.DoubleSide} />
      </mesh>
      {points.map((p, i) => (
        <mesh key={COLOURS[i]} position={[p[0], p[1], p[2]]} renderOrder={2}>
          <sphereGeometry args={[0.022 * (geometry.boundingSphere?.radius ?? 15), 16, 12]} />
          <meshBasicMaterial color={COLOURS[i]} depthTest={false} transparent />
        </mesh>
      ))}
    </>
  );
}
