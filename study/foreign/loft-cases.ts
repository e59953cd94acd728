import type { ForeignCase, ScanOptions } from './case.ts';
import { loftCrown } from './loft.ts';
import { LOFT_CROWN, type LoftCrown } from './loft-crown.ts';

const RAD = Math.PI / 180;
const dip = (phi: number, at: number, half: number): number => {
  const d = Math.abs(((((phi - at) % 360) + 540) % 360) - 180);
  return d < half ? Math.cos((d / half) * 90 * RAD) ** 2 : 0;
};

const FORMS = ['molar46', 'molar26', 'premolar35', 'premolar14'] as const;

const CUTS: Readonly<Record<string, Partial<LoftCrown>>> = {
  shoulder: {},
  'shoulder, sharp edges': { edge: 0, fillet: 0 },
  'rounded shoulder 1.2': { width: () => 1.2, fillet: 0.4, edge: 0.5 },
  'chamfer 0.4': { width: () => 0.4, floor: 'chamfer', lean: () => 5, edge: 0.5 },
  'chamfer 0.8': { width: () => 0.8, floor: 'chamfer', lean: () => 8, edge: 0.8 },
  'tilted 4°': { lean: (p) => 7 + 4 * Math.cos((p - 50) * RAD), width: () => 0.7 },
  'uneven width': { width: (p) => 0.5 + 0.5 * dip(p, 0, 70) - 0.15 * dip(p, 200, 30), floor: 'chamfer', lean: () => 6 },
  'uneven taper': { lean: (p) => 4 + 9 * dip(p, 90, 60) + 5 * dip(p, 270, 60) },
  'undercut distal': { lean: (p) => 5 - 10 * dip(p, 270, 60) },
  'lip 0.1': { width: () => 0.9, lip: (p) => (dip(p, 120, 60) > 0.25 ? 0.1 : 0) },
  'lip 0.3': { width: () => 0.9, lip: (p) => (dip(p, 250, 60) > 0.25 ? 0.3 : 0) },
  'bevel 45°, 1.2': { bevel: { angle: 45, width: 1.2 }, edge: 0.3, down: 1.6 },
  'bevel 40°, 1.6, rounded': { bevel: { angle: 40, width: 1.6 }, edge: 0.6, down: 1.8, floor: 'chamfer', width: () => 0.6 },
  'trench −0.5 distal': { over: (p) => 0.4 - 0.9 * (dip(p, 270, 70) > 0.2 ? 1 : dip(p, 270, 70) / 0.2), width: () => 0.7 },
  'trench −0.3 all round': { over: () => -0.3, width: () => 0.8, floor: 'chamfer' },
  'trench −0.4 lingual, gum leaning in': { over: (p) => 0.4 - 0.8 * (dip(p, 180, 70) > 0.2 ? 1 : dip(p, 180, 70) / 0.2), gum: -0.2 },
  'trench −0.4 facial, gum pushed out': { over: (p) => 0.4 - 0.8 * (dip(p, 0, 70) > 0.2 ? 1 : dip(p, 0, 70) / 0.2), gum: 0.5 },
  'nick 0.05': { nick: { side: 'mesial', depth: 0.05, across: 1.2 } },
  'nick 0.1': { nick: { side: 'distal', depth: 0.1, across: 1 } },
  'nick 0.25': { nick: { side: 'mesial', depth: 0.25, across: 1.4 } },
  'walls over the margin, facial and lingual': { width: () => 0.3, lean: (p) => 6 - 17 * (dip(p, 0, 50) + dip(p, 180, 50)), edge: 0.2 },
  'wall just over the margin, mesial and distal': { width: () => 0.35, lean: (p) => 5 - 13 * (dip(p, 90, 60) + dip(p, 270, 60)) },
};

const SCANS: Readonly<Record<string, Partial<ScanOptions>>> = {
  'noise 0.01': { noise: 0.01 },
  'noise 0.03, correlated': { noise: 0.03, correlation: 4 },
  'coarse 0.28': { spacing: 0.28 },
  'fine 0.08': { spacing: 0.08 },
  blunted: { blunt: 2, noise: 0.01 },
  pinholes: { defects: ['pinholes'] },
  debris: { defects: ['debris', 'spikes'] },
  doubled: { defects: ['doubled'] },
  step: { defects: ['step'] },
  turned: { defects: ['turned'] },
  crop: { defects: ['crop'] },
  mirrored: { mirrored: true },
  'size 1.015': { scale: 1.015 },
  'size 0.996': { scale: 0.996 },
  'size 1.003': { scale: 1.003 },
};

/** Every cut on two of the forms in turn, and every way of scanning on two cuts. */
export const LOFT_CASES: readonly { readonly name: string; make(): ForeignCase }[] = [
  ...Object.entries(CUTS).flatMap(([cut, own], i) =>
    [0, 1].map((j) => {
      const form = FORMS[(i + 2 * j + (i >> 2)) % FORMS.length];
      const name = `loft ${form} ${cut}`;
      return { name, make: () => loftCrown(name, form, { ...LOFT_CROWN, ...own }, { seed: 100 + 2 * i + j }) };
    }),
  ),
  ...Object.entries(SCANS).flatMap(([scan, options], i) =>
    ['chamfer 0.8', 'tilted 4°'].map((cut, j) => {
      const form = FORMS[(i + j) % FORMS.length];
      const name = `loft ${form} ${cut}, ${scan}`;
      return { name, make: () => loftCrown(name, form, { ...LOFT_CROWN, ...CUTS[cut] }, { seed: 300 + 2 * i + j, ...options }) };
    }),
  ),
];
