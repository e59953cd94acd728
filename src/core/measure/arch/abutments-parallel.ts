import { azimuthOf } from '../../linalg/sectors.ts';
import { angleBetween, type Vec3 } from '../../linalg/vec.ts';
import { expanded, type Reading, reading, refusal } from '../../result/reading.ts';

const NAME = 'abutments.parallel';

/** A path of insertion as one preparation of the scan has it. */
export interface InsertionPath {
  /** Unit vector out of the tooth, in the tooth frame of the preparation that is read. */
  readonly direction: Vec3;
  /** Expanded uncertainty of its tilt, degrees. */
  readonly U: number;
}

/**
 * Angle between the paths of insertion of two preparations in one arch, as a bridge needs them alike. Each is read against its own master, and both masters are laid on the same scan, which is what carries one path to the other.
 * @formula ∠(draw direction of the one, draw direction of the other); azimuth: where the other one leans to, seen from this one
 * @units degrees, not below 0
 * @frame tooth of the preparation that is read
 * @fails no-abutment, no-wall, abutment-not-read
 * @source own definition, docs/definitions.md
 * @example one crown drawn along the axis beside one tipped 4° to mesial reads 4
 */
export function abutmentsParallel(own: InsertionPath | null, other: InsertionPath | null | 'none'): Reading[] {
  if (other === 'none') return refusal(NAME, null, ['value'], 'no-abutment');
  if (!own) return refusal(NAME, null, ['value'], 'no-wall');
  if (!other) return refusal(NAME, null, ['value'], 'abutment-not-read');
  const [x, y] = [0, 1].map((k) => other.direction[k] / other.direction[2] - own.direction[k] / own.direction[2]);
  return [
    reading({
      name: NAME,
      value: angleBetween(own.direction, other.direction),
      U: expanded(own.U / 2, other.U / 2),
      at: { azimuth: azimuthOf(x, y) },
    }),
  ];
}
