import { type ForeignCase, type NamedCase, type Truth, usualAndCoarse } from './case.ts';
import { archOf, implicitScene } from './implicit.ts';
import type { Body } from './implicit-mesh.ts';
import { IMPLICIT_TEETH, type ImplicitTooth, landmarks } from './implicit-tooth.ts';
import { type Beside, foreignMaster, scanOf } from './scanner.ts';

/** A preparation of one tooth of the family "implicit". */
export interface ImplicitWork {
  readonly kind: ForeignCase['kind'];
  readonly name: string;
  readonly form: string;
  readonly body: (t: ImplicitTooth) => Body;
  readonly truths: (t: ImplicitTooth) => readonly Truth[];
  /** What the master carries besides the tooth's own landmarks, and besides its arch. */
  readonly marks?: (t: ImplicitTooth) => Partial<Parameters<typeof foreignMaster>[3]>;
  readonly beside?: () => Beside;
}

/** mm between the points of a coarse scan. */
const COARSE = 0.2;

/** Every work with usual noise, and once more coarser with noise that neighbouring points share; `seed` is the first scan's. */
export const scansOf = (works: readonly ImplicitWork[], seed: number): NamedCase[] =>
  works.flatMap(({ kind, name, form, body, truths, marks, beside }, i) =>
    usualAndCoarse(name, seed + 2 * i, COARSE, (more) => {
      const t = IMPLICIT_TEETH[form];
      const { options, scene } = implicitScene(t, more);
      const master = foreignMaster(`Implicit ${form}`, t.tooth, archOf(t), { ...landmarks(t), ...marks?.(t) }, beside?.());
      const { scan, pose } = scanOf(t.tooth, scene(body(t), options.spacing), options);
      return { family: 'implicit', kind, master, scan, pose, truths: () => truths(t), size: 1 };
    }),
  );
