/** Families of readings as a picture shows them, with the beginnings of the names that belong to each; the longest beginning decides. */
export const FAMILIES = {
  occlusal: { title: 'taken off the top', of: ['reduction', 'form.occlusal.flattened'] },
  axial: { title: 'taken off the sides', of: ['reduction.axial', 'planes', 'porcelain'] },
  clearance: { title: 'room to the opposite teeth', of: ['clearance', 'gauge'] },
  walls: { title: 'walls', of: ['taper', 'wall', 'lean', 'draw', 'resistance', 'slice'] },
  convergence: { title: 'convergence', of: ['toc'] },
  undercut: { title: 'undercut', of: ['undercut', 'retention'] },
  margin: { title: 'margin', of: ['margin', 'facial'] },
  bevel: { title: 'bevels', of: ['bevel'] },
  form: { title: 'form', of: ['form', 'incisal'] },
  arch: { title: 'in the arch', of: ['line', 'cusp', 'bevel.opposing', 'plane', 'abutments'] },
  edges: { title: 'edges and surface', of: ['edge', 'surface', 'wall.rough', 'axiopulpal'] },
  neighbour: { title: 'neighbours', of: ['contact', 'neighbour', 'box.clearance', 'box.gap'] },
  outline: { title: 'outline', of: ['outline', 'instrument', 'reversecurve'] },
  depth: { title: 'depth and floors', of: ['depth', 'floor'] },
  opening: { title: 'walls of a cavity', of: ['wall.angle', 'divergence', 'cavosurface', 'enamel'] },
  box: { title: 'box', of: ['box', 'instrument.box', 'axial'] },
  groove: { title: 'grooves and pins', of: ['groove', 'pin', 'plate', 'cingulum'] },
  inside: { title: 'gingiva, pulp, decay', of: ['gingiva', 'pulp', 'caries'] },
} as const satisfies Readonly<Record<string, { title: string; of: readonly string[] }>>;
export type Family = keyof typeof FAMILIES;

/** The family that a reading belongs to; null for one that no picture stands for. */
export function familyOf(reading: string): Family | null {
  let best: { family: Family; length: number } | null = null;
  for (const [family, { of }] of Object.entries(FAMILIES))
    for (const start of of)
      if ((reading === start || reading.startsWith(`${start}.`)) && start.length > (best?.length ?? 0))
        best = { family: family as Family, length: start.length };
  return best?.family ?? null;
}
