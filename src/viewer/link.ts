import type * as THREE from 'three';

type Follow = (position: THREE.Vector3, target: THREE.Vector3) => void;

/** Pictures that turn together: whoever moves tells the others where it looks from. */
export interface Link {
  /** Joins with what to do when another moves; gives how to tell the others, and how to leave. */
  readonly join: (follow: Follow) => { readonly tell: Follow; readonly leave: () => void };
}

export function makeLink(): Link {
  const all = new Set<Follow>();
  return {
    join: (follow) => {
      all.add(follow);
      return {
        tell: (position, target) => {
          for (const f of all) if (f !== follow) f(position, target);
        },
        leave: () => all.delete(follow),
      };
    },
  };
}
