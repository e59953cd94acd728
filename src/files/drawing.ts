import { DxfWriter, point2d, Units } from '@tarikjabiri/dxf';

/** A line of a drawing to scale: points (across, up) in mm. */
export interface DrawnLine {
  readonly id: string;
  readonly layer: string;
  readonly points: readonly (readonly [number, number])[];
}
export interface Stroke {
  readonly stroke: string;
  readonly width: number;
  readonly dashed?: boolean;
}

/** A length to measure on the print, mm. */
export const CHECK = 10;

export const escaped = (text: string): string => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);

/** A drawing as SVG, one unit a millimetre, with a square of 10 mm to check the print by. */
export function drawingSvg(lines: readonly DrawnLine[], strokes: Readonly<Record<string, Stroke>>, words: string): string {
  const xs = lines.flatMap((l) => l.points.map((p) => p[0]));
  const zs = lines.flatMap((l) => l.points.map((p) => p[1]));
  const [left, right, low, high] = [Math.min(...xs) - 2, Math.max(...xs) + 2, Math.min(...zs) - CHECK - 3, Math.max(...zs) + 2];
  const f = (v: number): string => v.toFixed(3);
  const path = (points: DrawnLine['points']): string => `M${points.map(([x, z]) => `${f(x)} ${f(-z)}`).join('L')}`;
  const drawn = lines.map((l) => {
    const s = strokes[l.layer];
    return `<path id="${l.id}" d="${path(l.points)}" fill="none" stroke="${s.stroke}" stroke-width="${s.width}"${s.dashed ? ' stroke-dasharray="0.5 0.35"' : ''}/>`;
  });
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${f(right - left)}mm" height="${f(high - low)}mm" viewBox="${f(left)} ${f(-high)} ${f(right - left)} ${f(high - low)}">`,
    `<title>${escaped(words)}</title>`,
    ...drawn,
    `<rect id="check" x="${f(left + 1)}" y="${f(-low - CHECK - 1)}" width="${CHECK}" height="${CHECK}" fill="none" stroke="#16202b" stroke-width="0.1"/>`,
    `<text x="${f(left + CHECK + 2)}" y="${f(-low - 1.5)}" font-size="1.6" font-family="sans-serif">${CHECK} mm</text>`,
    '</svg>',
  ].join('\n');
}

/** The same as DXF, in mm: a layer for each kind of line, and one for the square to check by. */
export function drawingDxf(lines: readonly DrawnLine[], colours: Readonly<Record<string, number>>): string {
  const dxf = new DxfWriter();
  dxf.setUnits(Units.Millimeters);
  for (const [layer, colour] of Object.entries({ ...colours, check: 5 })) dxf.addLayer(layer, colour, 'Continuous');
  for (const { layer, points } of lines) {
    dxf.setCurrentLayerName(layer);
    dxf.addLWPolyline(points.map(([x, z]) => ({ point: point2d(x, z) })));
  }
  dxf.setCurrentLayerName('check');
  const low = Math.min(...lines.flatMap((l) => l.points.map((p) => p[1]))) - CHECK - 2;
  const corners = [
    [0, 0],
    [CHECK, 0],
    [CHECK, CHECK],
    [0, CHECK],
    [0, 0],
  ];
  dxf.addLWPolyline(corners.map(([x, y]) => ({ point: point2d(x - CHECK / 2, low + y) })));
  return dxf.stringify();
}
