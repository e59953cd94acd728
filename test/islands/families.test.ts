import { expect, it } from 'vitest';
import { CATALOGUE } from '#core/catalogue/catalogue.ts';
import { FAMILIES, familyOf } from '#words/families.ts';

it('every reading of the catalogue belongs to a family that has a picture', () => {
  for (const e of CATALOGUE) expect(familyOf(e.name), e.name).not.toBeNull();
});
it('every family has a reading', () => {
  const seen = new Set(CATALOGUE.map((e) => familyOf(e.name)));
  for (const f of Object.keys(FAMILIES)) expect(seen.has(f as keyof typeof FAMILIES), f).toBe(true);
});
it('the most particular beginning decides', () => {
  expect(familyOf('reduction.occlusal')).toBe('occlusal');
  expect(familyOf('reduction.axial')).toBe('axial');
  expect(familyOf('box.clearance.facial')).toBe('neighbour');
  expect(familyOf('box.height')).toBe('box');
  expect(familyOf('boxes')).toBeNull();
});
