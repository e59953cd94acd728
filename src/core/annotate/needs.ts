import { CATALOGUE } from '../catalogue/catalogue.ts';
import type { Landmarks } from '../master/master.ts';
import { PART } from '../master/master.ts';

/** What a master may carry, and which readings are not given without it. */
export const NEEDS = {
  target: /./,
  mesial: /^(neighbour|contact\.broken|box\.clearance)/,
  distal: /^(neighbour|contact\.broken|box\.clearance)/,
  gingiva: /^gingiva/,
  cusps: /^(reduction\.(occlusal|incisal)|form\.occlusal|outline\.cusp|bevel)/,
  grooves: /^(reduction\.sites|outline\.entered)/,
  ridges: /^(ridge|outline\.oblique|form\.lingual\.ridge)/,
  contacts: /^(contact\.broken|box\.clearance)/,
  gingivalMargin: /^(margin\.gingiva|box\.height|facial\.extension)/,
  opposing: /^clearance/,
  dej: /^enamel\.undermined/,
  caries: /^caries/,
  pulp: /^pulp/,
} as const;
export type Need = keyof typeof NEEDS;

export interface Carried {
  readonly parts: ArrayLike<number>;
  readonly landmarks: Landmarks;
  readonly opposing: boolean;
  readonly inner: Readonly<Partial<Record<'dej' | 'caries' | 'pulp', boolean>>>;
}

/** Each thing that a master may carry: whether it is there, and the catalogue's readings that ask for it. */
export function needsOf(c: Carried): readonly { readonly need: Need; readonly has: boolean; readonly readings: readonly string[] }[] {
  const count = [0, 0, 0, 0, 0];
  for (let v = 0; v < c.parts.length; v++) count[c.parts[v]]++;
  const l = c.landmarks;
  const has: Readonly<Record<Need, boolean>> = {
    target: count[PART.target] > 0,
    mesial: count[PART.mesial] > 0,
    distal: count[PART.distal] > 0,
    gingiva: count[PART.gingiva] > 0,
    cusps: l.cusps.length > 0,
    grooves: l.grooves.some((g) => g.line.length > 1),
    ridges: l.ridges.mesial.length > 1 && l.ridges.distal.length > 1,
    contacts: l.contacts.mesial !== null || l.contacts.distal !== null,
    gingivalMargin: l.gingivalMargin.length >= 3,
    opposing: c.opposing,
    dej: c.inner.dej === true,
    caries: c.inner.caries === true,
    pulp: c.inner.pulp === true,
  };
  return (Object.keys(NEEDS) as Need[]).map((need) => ({
    need,
    has: has[need],
    readings: need === 'target' ? [] : [...new Set(CATALOGUE.map((e) => e.name).filter((n) => NEEDS[need].test(n)))],
  }));
}
