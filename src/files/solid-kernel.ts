import type { SolidKernel } from '#core/simulate/solids.ts';

let kernel: Promise<SolidKernel> | null = null;

/** Loads the boolean and simplification libraries once per thread. */
export function solidKernel(): Promise<SolidKernel> {
  kernel ??= load();
  return kernel;
}

async function load(): Promise<SolidKernel> {
  // Loaded when a solid is cut, so that measuring does not wait for them.
  const [{ default: Module }, { MeshoptSimplifier }] = await Promise.all([import('manifold-3d'), import('meshoptimizer')]);
  const m = await Module();
  m.setup();
  await MeshoptSimplifier.ready;
  return {
    make: ({ positions, triangles }) =>
      new m.Manifold(new m.Mesh({ numProp: 3, vertProperties: Float32Array.from(positions), triVerts: triangles })).asOriginal(),
    union: (bodies) => m.Manifold.union(bodies as never),
    levelSet: (inside, min, max, edge) =>
      m.Manifold.levelSet((q) => inside([q[0], q[1], q[2]]), { min: [min[0], min[1], min[2]], max: [max[0], max[1], max[2]] }, edge),
    sphere: (radius, at) => m.Manifold.sphere(radius, 96).translate([at[0], at[1], at[2]]).asOriginal(),
    simplify: (positions, triangles, target) => MeshoptSimplifier.simplify(triangles, positions, 3, target * 3, 1e-3, ['LockBorder'])[0],
  };
}
