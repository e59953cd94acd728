import { PLAN } from '#words/plan.ts';
import { drawingDxf, drawingSvg } from '../../files/drawing.ts';
import type { Person } from '../access/table.ts';
import type { App } from '../app.ts';
import { TaskFault } from '../children/pool.ts';
import { Refused } from '../errors.ts';
import type { Sent } from '../report/send.ts';
import type { Paper } from '../report/sheet.ts';
import { GUIDE_COLOURS, GUIDE_STROKES, guideLines, guidePdf } from './paper.ts';
import { planned, planView } from './view.ts';

/** The guide of an exercise in one of its forms. */
export async function guideFile(
  a: App,
  who: Person | null,
  id: string,
  as: 'pdf' | 'svg' | 'dxf' | 'stl',
  plane: number,
  paper: Paper,
): Promise<Sent> {
  const view = await planView(a, who, id);
  const name = `guide-${id}`;
  if (as === 'pdf') return { content: await guidePdf(view, paper), type: 'application/pdf', name: `${name}.pdf` };
  const section = view.guide.sections[plane];
  if (!section)
    throw new Refused(
      'not-there',
      `This tooth has ${view.guide.sections.length} sections, numbered from 0; number ${plane} is none of them.`,
    );
  const words = `${PLAN.guide}, ${view.exercise.title}, ${section.plane.name}`;
  if (as === 'svg')
    return { content: drawingSvg(guideLines(section), GUIDE_STROKES, words), type: 'image/svg+xml', name: `${name}-${plane}.svg` };
  if (as === 'dxf') return { content: drawingDxf(guideLines(section), GUIDE_COLOURS), type: 'image/vnd.dxf', name: `${name}-${plane}.dxf` };
  const { masterFile } = await planned(a, id);
  const { stl } = await a.children.run({ kind: 'guide-body', masterFile, plane }, { soon: true }).catch((e: unknown) => {
    if (e instanceof TaskFault) throw new Refused('conflict', e.message);
    throw e;
  });
  return { content: stl, type: 'model/stl', name: `${name}-${plane}.stl` };
}
