import type { Preparation } from '../preparation.ts';
import type { Truth } from './truth.ts';

/** Roughness of walls on which a cutter chattered: its waves and the scan's noise together, mm. Smooth walls have no roughness of their own. */
export function roughTruth(p: Preparation, noise: number): Truth[] {
  if (p.kind !== 'cavity' || !p.chatter) return [];
  const value = Math.hypot(noise, p.chatter.height / Math.SQRT2);
  const zones = [...(p.occlusal ? [null] : []), ...p.boxes.map((b) => `box ${b.side}`)];
  return zones.map((zone) => ({ name: 'wall.rough', zone, stat: 'median', unit: 'mm', value }));
}
