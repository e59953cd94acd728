import { planOf } from '#core/anatomy/anatomy.ts';
import { box, type CavityRecipe } from '#core/simulate/cavity/recipe.ts';
import { CLEAN_CROWN, type CrownRecipe } from '#core/simulate/crown/recipe.ts';
import { CLEAN_ONLAY } from '#core/simulate/onlay/recipe.ts';
import { CLEAN_PARTIAL, THREE_QUARTER_ANTERIOR } from '#core/simulate/partial/recipe.ts';
import type { Recipe } from '#core/simulate/recipe.ts';
import { seeded } from '#core/statistics/random.ts';

/** Random crown: every parameter drawn over the range that students produce. */
export function drawnCrown(tooth: string, seed: number): Pick<Recipe, 'preparation' | 'neighbourDamage'> {
  const random = seeded(seed * 977 + Number(tooth));
  const u = random.between.bind(random);
  const sides = (lo: number, hi: number) => ({ facial: u(lo, hi), mesial: u(lo, hi), lingual: u(lo, hi), distal: u(lo, hi) });
  const posterior = ['molar', 'premolar'].includes(planOf(tooth).kind);
  const width = u(0.4, 1);
  const around = (w: number) => ({
    facial: w * u(0.9, 1.2),
    mesial: w * u(0.85, 1.1),
    lingual: w * u(0.85, 1.1),
    distal: w * u(0.85, 1.1),
  });
  const preparation: CrownRecipe = {
    ...CLEAN_CROWN,
    occlusal: posterior
      ? { functional: u(0.9, 2), nonFunctional: u(0.8, 1.8), elsewhere: u(0.8, 1.8) }
      : { functional: u(0.5, 1), nonFunctional: u(0.5, 1), elsewhere: u(0.5, 1) },
    ...(posterior ? {} : { incisal: u(1.2, 2.2) }),
    flatten: random.next() < 0.2 ? u(0.3, 1) : 0,
    taper: posterior ? sides(2, 12) : sides(2, 7),
    margin: {
      width: around(width),
      rounding: [0, 0.3, 1][Math.floor(u(0, 3))],
      slope: random.next() < 0.3 ? u(0, 12) : 0,
      height: sides(0.2, 1),
      wander: random.next() < 0.3 ? u(0.02, 0.12) : 0,
      waves: 7,
    },
    planes: !posterior || random.next() < 0.3 ? [{ azimuth: 0, halfWidth: 45, angle: u(18, 30), depth: u(0.7, 1.4) }] : [],
    edgeRadius: u(0.1, 0.5),
    tilts: random.next() < 0.25 ? [{ azimuth: u(0, 360), halfWidth: 30, lean: u(-6, 8) }] : [],
  };
  const damage = (): number => (random.next() < 0.35 ? u(0.05, 0.4) : 0);
  const neighbourDamage = { mesial: damage(), distal: damage() };
  // Drawn last, so that earlier studies' other parameters stay the same.
  const places = random.next() < 0.5 ? [{ azimuth: u(0, 360), halfWidth: 20, over: 12, lip: u(0.05, 0.35) }] : [];
  const upper = Number(tooth[0]) <= 2;
  const bevel = posterior && random.next() < 0.5 ? [{ azimuth: upper ? 180 : 0, halfWidth: 60, angle: u(38, 52), depth: u(1, 1.6) }] : [];
  const fall = posterior ? {} : { incisalTilt: u(-12, 25) };
  return {
    preparation: { ...preparation, ...fall, planes: [...preparation.planes, ...bevel], margin: { ...preparation.margin, places } },
    neighbourDamage,
  };
}

/** Random crown with a wide functional bevel on a posterior tooth, and another crown on the tooth behind it. */
export function drawnAbutments(tooth: string, seed: number): Pick<Recipe, 'preparation' | 'neighbourDamage' | 'abutment'> {
  const behind = `${tooth[0]}${Number(tooth[1]) + 1}`;
  const { preparation } = drawnCrown(tooth, seed + 50);
  if (preparation.kind !== 'crown') throw new Error(`${tooth} was drawn as ${preparation.kind}`);
  const random = seeded(seed * 983 + Number(tooth));
  const bevel = { azimuth: Number(tooth[0]) <= 2 ? 180 : 0, halfWidth: 60, angle: random.between(38, 50), depth: random.between(1.7, 2.3) };
  return {
    preparation: { ...preparation, planes: [...preparation.planes.filter((p) => p.angle < 35), bevel] },
    neighbourDamage: { mesial: 0, distal: 0 },
    abutment: { tooth: behind, preparation: drawnCrown(behind, seed + 70).preparation },
  };
}

/** Random Class I, Class II or MOD cavity with parameters over the range that students produce. */
export function drawnCavity(tooth: string, seed: number): Pick<Recipe, 'preparation' | 'neighbourDamage'> {
  const random = seeded(seed * 991 + Number(tooth));
  const u = random.between.bind(random);
  const kinds = [[], ['distal'], ['mesial'], ['mesial', 'distal']] as const;
  const sides = kinds[seed % kinds.length];
  const molar = Number(tooth[1]) >= 6 || (Number(tooth[0]) >= 5 && Number(tooth[1]) >= 4);
  const preparation: CavityRecipe = {
    kind: 'cavity',
    occlusal: {
      isthmus: molar ? u(1, 2) : u(0.9, 1.5),
      dovetail: u(0.1, 0.6),
      mesial: u(0.38, 0.55),
      distal: u(0.38, 0.55),
      depth: u(1.3, 2.2),
      tiltMesial: random.next() < 0.4 ? u(-8, 8) : 0,
      tiltFacial: random.next() < 0.3 ? u(-8, 8) : 0,
      dish: random.next() < 0.2 ? u(0.05, 0.25) : 0,
      walls: { facial: u(-6, 8), mesial: u(-8, 4), lingual: u(-6, 8), distal: u(-8, 4) },
    },
    boxes: sides.map((side) =>
      box(side, {
        width: molar ? u(2.6, 4.2) : u(2.2, 3.4),
        axialDepth: u(0.9, 1.6),
        overGingiva: u(0.4, 1.4),
        facial: u(-5, 8),
        lingual: u(-5, 8),
        axial: u(-4, 4),
      }),
    ),
    lineRadius: u(0.08, 0.25),
    axiopulpal: u(0, 0.6),
  };
  const damage = (): number => (random.next() < 0.3 ? u(0.05, 0.4) : 0);
  const neighbourDamage = { mesial: damage(), distal: damage() };
  // Drawn last, so that earlier studies' other parameters stay the same.
  const boxes = preparation.boxes
    .map((b) => (random.next() < 0.4 ? { ...b, bevel: { along: u(0.3, 0.6), angle: u(30, 50) } } : b))
    .map((b) => (random.next() < 0.4 ? { ...b, facialBevel: { along: u(0.35, 0.6), angle: u(30, 45) } } : b));
  const chatter = random.next() < 0.4 ? { chatter: { height: u(0.025, 0.05), length: u(0.4, 0.55) } } : {};
  return { preparation: { ...preparation, boxes, ...chatter }, neighbourDamage };
}

/** Random onlay over either row of cusps with walls and boxes over the range that students produce. */
export function drawnOnlay(tooth: string, seed: number): Pick<Recipe, 'preparation' | 'neighbourDamage'> {
  const random = seeded(seed * 983 + Number(tooth));
  const u = random.between.bind(random);
  const o = CLEAN_ONLAY.inside.occlusal as NonNullable<CavityRecipe['occlusal']>;
  const width = u(0.8, 1.2);
  const lean = () => u(-8, -2);
  const walls = { facial: lean(), mesial: lean(), lingual: lean(), distal: lean() };
  const drawn = {
    preparation: {
      ...CLEAN_ONLAY,
      covers: seed % 2 ? ('lingual' as const) : ('facial' as const),
      cover: {
        ...CLEAN_ONLAY.cover,
        occlusal: { functional: u(1.6, 2.3), nonFunctional: u(1.3, 2), elsewhere: u(1, 1.4) },
        taper: { facial: u(3, 10), mesial: u(3, 8), lingual: u(3, 10), distal: u(3, 8) },
        margin: { ...CLEAN_ONLAY.cover.margin, width: { facial: width, mesial: width, lingual: width, distal: width } },
      },
      inside: {
        ...CLEAN_ONLAY.inside,
        occlusal: { ...o, isthmus: u(1.8, 2.6), depth: u(2.2, 2.8), walls },
        boxes: (['mesial', 'distal'] as const).map((side) =>
          box(side, { width: u(3, 4), axialDepth: u(1, 1.6), overGingiva: u(0.5, 1), facial: lean(), lingual: lean(), axial: u(-6, 0) }),
        ),
      },
    },
    neighbourDamage: { mesial: 0, distal: 0 },
  };
  // Drawn last, as on crowns.
  const bevel = random.next() < 0.5 ? { bevel: { width: u(0.3, 0.6), angle: u(35, 55) } } : {};
  const { cover } = drawn.preparation;
  return { ...drawn, preparation: { ...drawn.preparation, cover: { ...cover, margin: { ...cover.margin, ...bevel } } } };
}

/** Random three-quarter crown, posterior or anterior, with slightly leaning grooves; every other posterior one has a box on its mesial side. */
export function drawnPartial(tooth: string, seed: number): Pick<Recipe, 'preparation' | 'neighbourDamage'> {
  const random = seeded(seed * 971 + Number(tooth));
  const u = random.between.bind(random);
  const anterior = Number(tooth[1]) <= 3;
  const clean = anterior ? THREE_QUARTER_ANTERIOR : CLEAN_PARTIAL;
  const width = u(0.4, 0.7);
  const drawn = {
    preparation: {
      ...clean,
      crown: {
        ...clean.crown,
        taper: { facial: u(3, 6), mesial: u(2, 6), lingual: u(3, 8), distal: u(2, 6) },
        margin: { ...clean.crown.margin, width: { facial: width, mesial: width, lingual: width, distal: width } },
      },
      grooves: clean.grooves.map((g) => {
        const cut = { ...g, depth: u(0.45, 0.85), width: u(0.8, 1.1), leanOut: u(-3, 3), leanFacial: u(-5, 5) };
        return !anterior && seed % 2 && g.side === 'mesial' ? { ...cut, form: 'box' as const, width: 1.4 + cut.width } : cut;
      }),
      ...(anterior && seed % 2 ? { incisal: { width: u(0.8, 1.2), depth: u(0.35, 0.5), lingual: u(0.6, 1) } } : {}),
    },
    neighbourDamage: { mesial: 0, distal: 0 },
  };
  // Drawn last, as on crowns.
  const { crown, grooves } = drawn.preparation;
  if (anterior || random.next() < 0.5) return drawn;
  // A shoulder has a bevel outside of it, a chamfer has none; grooves end over the shoulder's fillet.
  const broad = width + 0.35;
  const margin = {
    ...crown.margin,
    rounding: 0.3,
    width: { facial: broad, mesial: broad, lingual: broad, distal: broad },
    bevel: { width: u(0.3, 0.5), angle: u(35, 55) },
  };
  const higher = grooves.map((g) => ({ ...g, over: g.over + margin.bevel.width }));
  return { ...drawn, preparation: { ...drawn.preparation, crown: { ...crown, margin }, grooves: higher } };
}
