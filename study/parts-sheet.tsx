import { createElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { partColour, partOf } from '#contract/depth-ramp.ts';
import { unpackDisplay } from '#contract/display.ts';
import type { KindName } from '#core/kinds/kinds.ts';
import { prepareMaster } from '#core/master/master.ts';
import { measure } from '#core/pipeline.ts';
import { type CavityRecipe, CLEAN_CLASS_I, cleanClassII } from '#core/simulate/cavity/recipe.ts';
import { ANTERIOR_CERAMIC, METAL_CERAMIC_FACIAL } from '#core/simulate/crown/recipe.ts';
import { CLEAN_ONLAY } from '#core/simulate/onlay/recipe.ts';
import { CLEAN_PARTIAL, THREE_QUARTER_ANTERIOR } from '#core/simulate/partial/recipe.ts';
import { defaultRecipe, type Recipe } from '#core/simulate/recipe.ts';
import { Workshop } from '#core/simulate/simulate.ts';
import { Plan } from '../src/charts/Plan.tsx';
import { blank, draw, VIEWS } from '../src/files/render.ts';
import { solidKernel } from '../src/files/solid-kernel.ts';
import { displayFile } from '../src/server/scans/display.ts';
import { type Cell, captioned, GROUND } from './captioned.ts';

const SIZE = 250;
/** From lingual and a little above: what covers no facial side is best seen from there. */
const FROM_BEHIND = { right: [1, 0, 0], up: [0, 0.57, 0.82], eye: [0, -0.82, 0.57] };

/** What the stylesheet of the application says of the classes that the plan uses. */
const STYLE = `
  svg{display:block;width:${SIZE}px;height:${Math.round((SIZE * 330) / 260)}px;background:#fafbf9}
  .fill-none{fill:none}.fill-ground{fill:#e3e9e5}.fill-wash{fill:#d9e6e4}.fill-soft{fill:#4d5b63}.fill-ink{fill:#16202b}.fill-under{fill:#a34a00}.fill-bad{fill:#9b1c1c}
  .stroke-soft{stroke:#4d5b63}.stroke-accent{stroke:#0b5563}.stroke-over{stroke:#5b2f8f}.stroke-ink{stroke:#16202b}.stroke-under{stroke:#a34a00}.stroke-bad{stroke:#9b1c1c}
  path[stroke-width="3"]{stroke:#9aa8a4} text{stroke:none;font:11px sans-serif}`;

const both = [...cleanClassII('mesial').boxes, ...cleanClassII('distal').boxes];
const occlusal = CLEAN_CLASS_I.occlusal as NonNullable<CavityRecipe['occlusal']>;
const opening = { facial: -5, mesial: -5, lingual: -5, distal: -5 };
const INLAY: CavityRecipe = {
  ...CLEAN_CLASS_I,
  occlusal: { ...occlusal, isthmus: 2, walls: opening },
  boxes: both.map((b) => ({ ...b, facial: -5, lingual: -5, axial: -4 })),
};
const KINDS: readonly (readonly [string, string, Recipe['preparation']])[] = [
  ['16', 'crown', METAL_CERAMIC_FACIAL],
  ['22', 'anterior crown', ANTERIOR_CERAMIC],
  ['37', 'Class I', CLEAN_CLASS_I],
  ['34', 'Class II, DO', cleanClassII('distal', { width: 2.6 })],
  ['46', 'MOD', { ...cleanClassII('mesial'), boxes: both }],
  ['36', 'MOD inlay', INLAY],
  ['45', 'slot', { ...cleanClassII('mesial', { width: 2.4 }), occlusal: null }],
  ['46', 'onlay', CLEAN_ONLAY],
  ['26', 'three-quarter crown', CLEAN_PARTIAL],
  ['13', 'three-quarter, anterior', THREE_QUARTER_ANTERIOR],
];

/** Each kind as it was measured from a scan: its parts in their colours, named; and the plan of its outline where it has one. */
export async function parts(): Promise<Buffer> {
  const kernel = await solidKernel();
  const cells: Cell[] = [];
  for (const [tooth, caption, preparation] of KINDS) {
    const shop = new Workshop(tooth, 5, kernel);
    const { scan } = shop.cut(defaultRecipe(tooth, 2, preparation), 2);
    const measured = measure(preparation.kind as KindName, scan.mesh, prepareMaster(shop.master.description, shop.master.meshes));
    const bytes = await displayFile(measured);
    const { header, meshes } = unpackDisplay(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer);
    const shown = meshes[0];
    const reach = shop.typodont.target.plan.md / 2 + 0.2;
    const kept = shown.indices.filter((_, k) => {
      const f = k - (k % 3);
      return [0, 1, 2].every((j) => Math.abs(shown.positions[3 * shown.indices[f + j]]) < reach);
    });
    const png = blank(SIZE, SIZE, GROUND);
    const view = preparation.kind === 'partial' || tooth === '22' ? FROM_BEHIND : VIEWS.occlusal;
    const colour = (v: number) => partColour(partOf(shown.surface?.[v] ?? 0));
    draw(
      png,
      { positions: shown.positions, triangles: kept, colour },
      { ...view, centre: [0, 0, 3], scale: 19 },
      { x: 0, y: 0, width: SIZE, height: SIZE },
    );
    const used = new Set(Array.from(shown.surface ?? [], partOf));
    const names = header.parts
      .map((name, i) => ({ name, i }))
      .filter(({ i }) => i > 0 && used.has(i))
      .map(
        ({ name, i }) =>
          `<span style="white-space:nowrap"><i style="display:inline-block;width:9px;height:9px;background:rgb(${partColour(i).map((c) => Math.round(255 * c))})"></i> ${name}</span>`,
      );
    const plan = measured.curves['plan.outline']
      ? renderToStaticMarkup(createElement(Plan, { curves: measured.curves as never, mesialSign: header.mesialSign }))
      : '';
    cells.push({ caption: `<b>${tooth}: ${caption}</b><br>${names.join(' ')}`, pictures: [png], drawing: plan });
  }
  return captioned(cells, 5, SIZE, STYLE);
}
