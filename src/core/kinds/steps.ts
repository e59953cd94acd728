import type { Step } from '../catalogue/terms.ts';
import type { KindName } from './kinds.ts';

/** Steps at which work of a kind is usually shown, in the order of the work. */
export const STEPS_OF: Readonly<Record<KindName, readonly Step[]>> = {
  crown: ['occlusal', 'axial', 'final'],
  onlay: ['occlusal', 'box', 'final'],
  partial: ['occlusal', 'axial', 'final'],
  cavity: ['outline', 'box', 'final'],
  preformed: ['occlusal', 'axial', 'final'],
  restoration: ['final'],
};
