import { box, type CavityRecipe, CLEAN_CLASS_I } from '../simulate/cavity/recipe.ts';
import { type SoFar, sides } from './so-far.ts';

/** Degrees of a cavity's walls, mm of an onlay's slot and of the boxes. */
const WALL = 3;
const ONLAY = { isthmus: 2.2, dovetail: 0.1, box: 3.6 };
const BOX = 3.4;
/** mm of tooth that stands between a box and its neighbour until the contact is broken. */
const SHELL = 0.5;

/** A cavity's recipe, or the hollow of an onlay, as far as a plan has been followed. */
export function hollowSoFar(s: SoFar): CavityRecipe {
  const { fit, way, plan } = s;
  const isOnlay = plan.kind === 'onlay';
  const wall = isOnlay ? -s.lean : WALL;
  const occlusal = {
    ...(CLEAN_CLASS_I.occlusal as NonNullable<CavityRecipe['occlusal']>),
    depth: Math.max(0.3, s.target('depth.pulpal', null, 1.8) + fit.depth),
    isthmus: isOnlay ? ONLAY.isthmus : s.target('outline.isthmus', null, 1.2) - way.sunk_mm + fit.isthmus,
    tiltFacial: way.tilt_deg,
    ...(isOnlay ? { walls: sides(() => wall), dovetail: ONLAY.dovetail } : {}),
  };
  const isOpen = s.has('box-open');
  const hasBoxes = isOpen || s.has('box-shell');
  const on = isOnlay ? (['mesial', 'distal'] as const) : plan.boxes;
  const boxes = on.map((side) =>
    box(side, {
      width: (isOnlay ? ONLAY.box : BOX) + fit[`${side}Width`],
      toFacial: fit[`${side}ToFacial`],
      overGingiva: Math.max(0.1, 0.7 + fit[`${side}OverGingiva`]),
      axialDepth: s.target('box.axialdepth', null, 1.3),
      ...(isOnlay ? { facial: wall, lingual: wall, axial: wall } : { facial: WALL + way.tilt_deg, lingual: WALL - 1 + way.tilt_deg }),
    }),
  );
  return { ...CLEAN_CLASS_I, occlusal, boxes: hasBoxes ? boxes : [], ...(hasBoxes && !isOpen ? { shell: SHELL } : {}) };
}
