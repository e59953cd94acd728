import { isUpper, planOf } from '../anatomy/anatomy.ts';
import { widestMargin } from '../plan/cutter.ts';
import { lipHeight, passesFor } from '../plan/margin.ts';
import { CLEAN_CROWN, type CrownRecipe, type MarginPlace } from '../simulate/crown/recipe.ts';
import { type SoFar, sides } from './so-far.ts';

type Plane = CrownRecipe['planes'][number];
/** mm: edges before and after they are smoothed. */
const SHARP = 0.12;
/** Degrees of arc over which a facial plane and a functional bevel are cut. */
const FACIAL_PLANE = 60;
const BEVEL = 62;
/** Degrees from the axis of a facial incisal plane. */
const FACIAL_LEAN = 20;

/** A crown's recipe as far as a plan has been followed: its top, planes, walls and margin. */
export function crownSoFar(s: SoFar): CrownRecipe {
  const { own, way, plan } = s;
  const left = s.left('axial');
  const width = (side: string): number => Math.max(0.15, s.target('margin.width', new RegExp(`^(${side})?$`), 0.6) - left);
  const square = own?.tip === 'flat';
  // As wide as the whole margin in one pass, a round tip leaves its lip; in passes of half its tip none.
  const isOne = way.onePass && own !== null && (passesFor(width('facial'), own) ?? 1) > 1;
  const lip = own && isOne && s.has('margin') ? lipHeight(width('facial'), own) : 0;
  const places: MarginPlace[] = lip > 0 ? [{ azimuth: 0, halfWidth: 180, over: 1, lip }] : [];
  const hasIncisal = s.asks('reduction.incisal');
  const elsewhere = s.target('reduction.occlusal', /groove/, s.target('reduction.occlusal', null, hasIncisal ? 0.8 : 1.2) - way.sunk_mm);
  const at = (zone: RegExp): number => s.target('reduction.occlusal', zone, elsewhere - way.sunk_mm);
  return {
    ...CLEAN_CROWN,
    occlusal: { functional: at(/^functional/), nonFunctional: at(/^non-functional/), elsewhere },
    ...topOf(s),
    ...(hasIncisal && s.has('incisal', 'occlusal') ? { incisal: s.target('reduction.incisal', null, 1.5) } : {}),
    taper: sides(() => s.lean),
    margin: {
      ...CLEAN_CROWN.margin,
      rounding: square ? 0.25 : own ? Math.min(1, widestMargin(own) / width('facial')) : 1,
      width: sides(width),
      height: sides((side) => Math.max(0.05, s.target('margin.gingiva', new RegExp(`^${side}$`), 0.5) - way.sunk_mm)),
      ...(places.length ? { places } : {}),
    },
    planes: planesOf(s),
    edgeRadius:
      s.has('smooth', 'bevels') || !plan.steps.some((t) => t.id === 'smooth' || t.id === 'bevels') ? CLEAN_CROWN.edgeRadius : SHARP,
  };
}

/** The top stands, or carries depth cuts alone, until it is reduced; an anterior tooth's is its lingual fossa. */
function topOf(s: SoFar): Pick<CrownRecipe, 'top'> {
  const isReduced = s.plan.steps.some((t) => t.id === 'lingual-fossa') ? s.has('lingual-fossa') : s.has('occlusal', 'cover');
  if (isReduced) return {};
  const grooves = s.done.find((t) => t.id === 'depth-cuts');
  if (!grooves) return { top: 'stands' };
  return { top: { along: s.plan.choices.depthCuts === 'in the grooves' ? 'grooves' : 'ridges', radius: (grooves.depth ?? 1) / 2 } };
}

function planesOf(s: SoFar): Plane[] {
  const planes: Plane[] = [];
  if (s.asks('planes.facial') && (s.has('facial-planes') || (!s.plan.steps.some((t) => t.id === 'facial-planes') && s.has('axial'))))
    planes.push({ azimuth: 0, halfWidth: FACIAL_PLANE, angle: FACIAL_LEAN, depth: s.target('planes.facial.depth', null, 1.1) });
  const posterior = ['molar', 'premolar'].includes(planOf(s.plan.tooth).kind);
  if (posterior && s.asks('bevel.functional') && s.has('functional-bevel'))
    planes.push({
      // Upper teeth bite with their lingual cusps, lower ones with their facial ones.
      azimuth: isUpper(s.plan.tooth) ? 180 : 0,
      halfWidth: BEVEL,
      angle: s.angle('bevel.functional.angle', 45),
      depth: s.target('bevel.functional.depth', null, 1.4) + s.fit.bevel,
    });
  return planes;
}
