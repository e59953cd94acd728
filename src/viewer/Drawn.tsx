import { useFrame, useThree } from '@react-three/fiber';
import { useRef } from 'react';

/** Tells the page when the picture was really drawn: tests and the makers of screenshots wait for it. */
export function DrawnFlag() {
  const n = useRef(0);
  const gl = useThree((s) => s.gl);
  const invalidate = useThree((s) => s.invalidate);
  useFrame(() => {
    if (++n.current < 3) invalidate();
    else if (gl.info.render.triangles > 0) gl.domElement.closest('[data-scene]')?.setAttribute('data-drawn', '1');
  });
  return null;
}
