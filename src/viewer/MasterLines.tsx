import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import * as THREE from 'three';
import { type DisplayHeader, linesFor } from '#contract/display.ts';

/** The master's lines that the readings in view are taken from, dashed and never hidden by the tooth. */
export function MasterLines({ header, readings }: { readonly header: DisplayHeader; readonly readings: readonly string[] }) {
  const invalidate = useThree((s) => s.invalidate);
  const lines = useMemo(
    () =>
      linesFor(header, readings).map(({ of, points }) => {
        const g = new THREE.BufferGeometry().setFromPoints(points.map((p) => new THREE.Vector3(...p)));
        const look = { color: '#7a3b12', dashSize: 0.5, gapSize: 0.3, depthTest: false, transparent: true };
        const line = new THREE.Line(g, new THREE.LineDashedMaterial(look));
        line.computeLineDistances();
        return { of, line };
      }),
    [header, readings],
  );
  useEffect(() => {
    invalidate();
    return () => {
      for (const { line } of lines) {
        line.geometry.dispose();
        line.material.dispose();
      }
    };
  }, [lines, invalidate]);
  return lines.map(({ line }) => <primitive key={line.uuid} object={line} renderOrder={4} />);
}
