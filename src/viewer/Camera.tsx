import { useThree } from '@react-three/fiber';
import { useEffect, useRef } from 'react';
import * as THREE from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import type { Link } from './link.ts';

export type ViewName = 'facial' | 'lingual' | 'mesial' | 'distal' | 'occlusal';

/** A side, an azimuth from above, over the target to the neighbour's side that faces it, or down along a direction out of the tooth. */
export type View =
  | { readonly name: ViewName }
  | { readonly azimuth: number }
  | { readonly across: 'mesial' | 'distal' }
  | { readonly along: readonly number[] };

const reducedMotion = (): boolean => window.matchMedia('(prefers-reduced-motion: reduce)').matches;

const CENTRE = new THREE.Vector3(0, 0, 2.6);
const DISTANCE = 36;
/** What is up on the screen: the tooth's top, and facial where the tooth is looked down on. */
const OCCLUSAL = new THREE.Vector3(0, 0, 1);
const FACIAL = new THREE.Vector3(0, 1, 0);

function eyeOf(view: View, mesialSign: number): THREE.Vector3 {
  if ('azimuth' in view) {
    const a = (view.azimuth * Math.PI) / 180;
    return new THREE.Vector3(Math.sin(a) * mesialSign, Math.cos(a), 0.75).setLength(DISTANCE).add(CENTRE);
  }
  if ('across' in view) {
    const way = (view.across === 'mesial' ? -1 : 1) * mesialSign;
    return new THREE.Vector3(0.8 * way, -0.003, 1).setLength(DISTANCE).add(CENTRE);
  }
  if ('along' in view) return new THREE.Vector3(view.along[0], view.along[1], view.along[2]).setLength(DISTANCE).add(CENTRE);
  const to: Record<ViewName, [number, number, number]> = {
    facial: [0, 1, 0.28],
    lingual: [0, -1, 0.28],
    mesial: [mesialSign, 0, 0.28],
    distal: [-mesialSign, 0, 0.28],
    // A hair off the axis, on the lingual side: the facial side is then up on the screen.
    occlusal: [0, -0.003, 1],
  };
  return new THREE.Vector3(...to[view.name]).setLength(DISTANCE).add(CENTRE);
}

/** Orbit by hand; flies to a new view within 250 ms, or jumps when motion is not wanted. */
export function Controls({ view, mesialSign, link }: { view: View; mesialSign: number; link?: Link }) {
  const { camera, gl, invalidate, set } = useThree();
  const controls = useRef<OrbitControls | null>(null);
  useEffect(() => {
    const c = new OrbitControls(camera, gl.domElement);
    c.target.copy(CENTRE);
    c.enableDamping = false;
    c.minDistance = 8;
    c.maxDistance = 90;
    c.addEventListener('change', () => invalidate());
    // A look down a path keeps facial up only until it is turned by hand.
    c.addEventListener('start', () => camera.up.copy(OCCLUSAL));
    controls.current = c;
    set({ controls: c });
    // Following another picture is no move of one's own, or two pictures would answer each other for ever.
    let follows = false;
    const linked = link?.join((position, target) => {
      follows = true;
      camera.position.copy(position);
      c.target.copy(target);
      c.update();
      follows = false;
    });
    c.addEventListener('change', () => {
      if (!follows) linked?.tell(camera.position, c.target);
    });
    return () => {
      linked?.leave();
      c.dispose();
    };
  }, [camera, gl, invalidate, set, link]);
  useEffect(() => {
    const c = controls.current;
    if (!c) return;
    const from = new THREE.Spherical().setFromVector3(
      camera.position
        .clone()
        .sub(CENTRE)
        .applyAxisAngle(new THREE.Vector3(1, 0, 0), -Math.PI / 2),
    );
    const to = new THREE.Spherical().setFromVector3(
      eyeOf(view, mesialSign)
        .sub(CENTRE)
        .applyAxisAngle(new THREE.Vector3(1, 0, 0), -Math.PI / 2),
    );
    camera.up.copy('along' in view ? FACIAL : OCCLUSAL);
    let turn = to.theta - from.theta;
    turn -= 2 * Math.PI * Math.round(turn / (2 * Math.PI));
    const start = performance.now();
    const time = reducedMotion() ? 0 : 250;
    let frame = 0;
    const step = (): void => {
      const t = time === 0 ? 1 : Math.min(1, (performance.now() - start) / time);
      const e = t * t * (3 - 2 * t);
      const s = new THREE.Spherical(from.radius + (to.radius - from.radius) * e, from.phi + (to.phi - from.phi) * e, from.theta + turn * e);
      camera.position
        .setFromSpherical(s)
        .applyAxisAngle(new THREE.Vector3(1, 0, 0), Math.PI / 2)
        .add(CENTRE);
      c.target.copy(CENTRE);
      c.update();
      invalidate();
      if (t < 1) frame = requestAnimationFrame(step);
    };
    step();
    return () => cancelAnimationFrame(frame);
  }, [view, mesialSign, camera, invalidate]);
  return null;
}
