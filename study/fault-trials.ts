import type { CariesRecipe } from '#core/anatomy/inner.ts';
import { cleanClassII } from '#core/simulate/cavity/recipe.ts';
import { ANTERIOR_CERAMIC, ZIRCONIA_POSTERIOR } from '#core/simulate/crown/recipe.ts';
import type { FaultName } from '#core/simulate/faults/faults.ts';
import type { Preparation } from '#core/simulate/preparation.ts';

/** A fault's place and the reading that must show it. */
export interface Trial {
  readonly fault: FaultName;
  readonly on: keyof typeof BENCHES;
  readonly sizes: readonly number[];
  readonly at?: string;
  readonly reading: string;
  readonly zone: string | null;
  readonly stat: string;
}

const CLASS_II = cleanClassII('mesial');
// Short of the oblique ridge, as an upper molar's should be.
const OCCLUSAL = CLASS_II.occlusal as NonNullable<typeof CLASS_II.occlusal>;
const DECAY: CariesRecipe = { site: 'occlusal', depth: 1.7, width: 1 };
export const BENCHES: Readonly<Record<string, { teeth: readonly string[]; preparation: Preparation; caries?: CariesRecipe }>> = {
  crown: { teeth: ['16', '35'], preparation: ZIRCONIA_POSTERIOR },
  // A bevel of 1.2 mm over the functional cusps, on the side that the tooth has them.
  bevelled: {
    teeth: ['16', '26'],
    preparation: { ...ZIRCONIA_POSTERIOR, planes: [{ azimuth: 180, halfWidth: 60, angle: 45, depth: 1.4 }] },
  },
  anterior: { teeth: ['11', '33'], preparation: ANTERIOR_CERAMIC },
  upper: { teeth: ['16', '26'], preparation: { ...CLASS_II, occlusal: { ...OCCLUSAL, distal: 0.05 } } },
  cavity: { teeth: ['36', '16'], preparation: CLASS_II, caries: DECAY },
  inlay: {
    teeth: ['36', '46'],
    preparation: { ...CLASS_II, boxes: CLASS_II.boxes.map((b) => ({ ...b, bevel: { along: 0.6, angle: 40 } })) },
  },
  // A box that stands well clear of its neighbour, so that there is something to lose.
  open: { teeth: ['36', '16'], preparation: { ...CLASS_II, boxes: CLASS_II.boxes.map((b) => ({ ...b, width: 4.6 })) } },
};

export const TRIALS: readonly Trial[] = [
  { fault: 'shallow-cusp', on: 'crown', sizes: [0.05, 0.1, 0.3], at: 'cusp', reading: 'reduction.occlusal', zone: 'cusp', stat: 'median' },
  { fault: 'over-reduced', on: 'crown', sizes: [0.05, 0.1, 0.5], reading: 'reduction.occlusal', zone: 'central groove', stat: 'median' },
  { fault: 'flat-top', on: 'crown', sizes: [0.3, 0.6, 1], reading: 'form.occlusal', zone: null, stat: 'median' },
  { fault: 'line-angle', on: 'crown', sizes: [0.1, 0.2, 0.3], reading: 'margin.width', zone: 'mesiofacial', stat: 'median' },
  { fault: 'over-taper', on: 'crown', sizes: [2, 4, 8], reading: 'taper.wall', zone: 'distolingual', stat: 'median' },
  { fault: 'undercut', on: 'crown', sizes: [0.5, 1, 3], reading: 'undercut.depth', zone: 'long axis', stat: 'max' },
  { fault: 'whole-tilt', on: 'crown', sizes: [1, 2, 5], reading: 'draw.tilt', zone: null, stat: 'value' },
  { fault: 'lip', on: 'crown', sizes: [0.05, 0.1, 0.2], reading: 'margin.lip', zone: 'distolingual', stat: 'p95' },
  { fault: 'wander', on: 'crown', sizes: [0.03, 0.06, 0.12], reading: 'margin.wander', zone: null, stat: 'value' },
  { fault: 'margin-step', on: 'crown', sizes: [0.1, 0.2, 0.4], reading: 'margin.step', zone: null, stat: 'max' },
  { fault: 'margin-high', on: 'crown', sizes: [0.05, 0.1, 0.5], reading: 'margin.gingiva', zone: 'mesial', stat: 'median' },
  { fault: 'margin-below', on: 'crown', sizes: [0.05, 0.1, 0.3], reading: 'margin.gingiva', zone: 'facial', stat: 'min' },
  { fault: 'margin-narrow', on: 'crown', sizes: [0.05, 0.1, 0.3], reading: 'margin.width', zone: 'lingual', stat: 'median' },
  { fault: 'sharp-edge', on: 'crown', sizes: [0.1, 0.2, 0.3], reading: 'edge.sharp', zone: null, stat: 'value' },
  { fault: 'upright', on: 'crown', sizes: [0.25, 0.5, 1], reading: 'draw.tilt', zone: null, stat: 'value' },
  { fault: 'functional-bevel', on: 'bevelled', sizes: [0.2, 0.4, 0.8], reading: 'bevel.functional.depth', zone: null, stat: 'value' },
  { fault: 'contact-left', on: 'crown', sizes: [0.2, 0.3, 0.4], reading: 'contact.broken', zone: 'mesial', stat: 'min' },
  { fault: 'neighbour', on: 'crown', sizes: [0.05, 0.1, 0.2], reading: 'neighbour.mesial', zone: null, stat: 'max' },
  { fault: 'single-plane', on: 'anterior', sizes: [0.2, 0.4, 0.8], reading: 'planes.facial.depth', zone: null, stat: 'min' },
  { fault: 'dished-floor', on: 'cavity', sizes: [0.05, 0.1, 0.2], reading: 'floor.pulpal.flat', zone: null, stat: 'value' },
  { fault: 'tilted-floor', on: 'cavity', sizes: [1, 3, 6], reading: 'floor.pulpal.tilt', zone: null, stat: 'value' },
  { fault: 'too-deep', on: 'cavity', sizes: [0.05, 0.1, 0.4], reading: 'depth.pulpal', zone: null, stat: 'median' },
  { fault: 'too-shallow', on: 'cavity', sizes: [0.2, 0.4, 0.8], reading: 'caries.left', zone: null, stat: 'value' },
  { fault: 'wide-isthmus', on: 'cavity', sizes: [0.05, 0.1, 0.5], reading: 'outline.isthmus', zone: null, stat: 'min' },
  { fault: 'thin-ridge', on: 'cavity', sizes: [0.02, 0.05, 0.15], at: 'distal', reading: 'outline.ridge.distal', zone: null, stat: 'min' },
  { fault: 'crossed-ridge', on: 'upper', sizes: [0.1, 0.25, 0.45], reading: 'outline.oblique', zone: null, stat: 'value' },
  { fault: 'converging-wall', on: 'cavity', sizes: [6, 8, 12], at: 'facial', reading: 'wall.angle', zone: 'facial', stat: 'mean' },
  { fault: 'flared-wall', on: 'cavity', sizes: [2, 5, 15], reading: 'wall.angle', zone: 'box mesial facial', stat: 'mean' },
  { fault: 'undermined-enamel', on: 'cavity', sizes: [4, 8, 15], reading: 'enamel.undermined', zone: null, stat: 'value' },
  { fault: 'sharp-axiopulpal', on: 'cavity', sizes: [0.1, 0.2, 0.3], reading: 'axiopulpal.bevel', zone: 'box mesial', stat: 'value' },
  { fault: 'closed-contact', on: 'open', sizes: [0.2, 0.4, 0.8], reading: 'box.clearance.facial', zone: 'box mesial', stat: 'min' },
  { fault: 'gingival-contact', on: 'cavity', sizes: [0.2, 0.5, 1], reading: 'box.clearance.gingival', zone: 'box mesial', stat: 'min' },
  { fault: 'rough-walls', on: 'cavity', sizes: [0.01, 0.02, 0.04], reading: 'wall.rough', zone: null, stat: 'median' },
  { fault: 'bevel-narrow', on: 'inlay', sizes: [0.1, 0.2, 0.35], reading: 'bevel.gingival.width', zone: 'box mesial', stat: 'value' },
  {
    fault: 'shallow-axial',
    on: 'cavity',
    sizes: [0.05, 0.1, 0.3],
    reading: 'box.axialdepth',
    zone: 'box mesial middle third',
    stat: 'value',
  },
];

/**
 * Result of one scan: whether the reading differs from that of the tooth's clean preparation. Size 0: another scan of clean
 * work.
 */
export interface TrialResult {
  readonly fault: FaultName;
  readonly tooth: string;
  readonly size: number;
  /** Number of the scan among those of the same size. */
  readonly run: number;
  readonly found: boolean | null;
  readonly value: number | null;
  readonly clean: number | null;
}
