import { useThree } from '@react-three/fiber';
import { useEffect } from 'react';
import * as THREE from 'three';
import { plateColour } from '#contract/depth-ramp.ts';

/** The surface behind a facial plate, coloured by the plate's thickness and laid over the scan's own colours. */
export function Plate({ geometry, of, least }: { geometry: THREE.BufferGeometry; of: Float32Array | null; least: number | null }) {
  const invalidate = useThree((s) => s.invalidate);
  useEffect(() => {
    const colours = new Float32Array(geometry.attributes.position.count * 3);
    of?.forEach((d, v) => {
      colours.set(plateColour(d, least), 3 * v);
    });
    geometry.setAttribute('color', new THREE.BufferAttribute(colours, 3));
    invalidate();
    return () => invalidate();
  }, [geometry, of, least, invalidate]);
  return (
    <mesh geometry={geometry} renderOrder={1}>
      <meshLambertMaterial vertexColors side={THREE.DoubleSide} polygonOffset polygonOffsetFactor={-2} polygonOffsetUnits={-2} />
    </mesh>
  );
}
