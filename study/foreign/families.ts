import type { NamedCase } from './case.ts';
import { againstCoarseMasters } from './coarse-master.ts';
import { IMPLICIT_CASES } from './implicit.ts';
import { IMPLICIT_ANTERIOR_COVERS } from './implicit-anterior-cover.ts';
import { IMPLICIT_BEVELS } from './implicit-bevel.ts';
import { IMPLICIT_BLADES } from './implicit-blade.ts';
import { IMPLICIT_COVERS } from './implicit-cover.ts';
import { IMPLICIT_CROWNS } from './implicit-crown-cases.ts';
import { IMPLICIT_FACIALS } from './implicit-facial.ts';
import { IMPLICIT_FOSSAE } from './implicit-fossa.ts';
import { IMPLICIT_PAIRS } from './implicit-pair.ts';
import { IMPLICIT_RIMS } from './implicit-rim.ts';
import { LEVEL_SET_CASES } from './level-set-cases.ts';
import { LOFT_CASES } from './loft-cases.ts';
import { SWEPT_CASES } from './swept.ts';

const OWN_MASTERS: readonly NamedCase[] = [
  ...LOFT_CASES,
  ...LEVEL_SET_CASES,
  ...SWEPT_CASES,
  ...IMPLICIT_CASES,
  ...IMPLICIT_CROWNS,
  ...IMPLICIT_BLADES,
  ...IMPLICIT_BEVELS,
  ...IMPLICIT_FOSSAE,
  ...IMPLICIT_FACIALS,
  ...IMPLICIT_COVERS,
  ...IMPLICIT_ANTERIOR_COVERS,
  ...IMPLICIT_RIMS,
  ...IMPLICIT_PAIRS,
];

/** All cases of all families, and some of each against a coarser master. */
export const FOREIGN: readonly NamedCase[] = [...OWN_MASTERS, ...againstCoarseMasters(OWN_MASTERS)];
