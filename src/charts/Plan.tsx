import type { BenchView } from '#contract/views.ts';

const W = 260;
const H = 330;

/** Width and height of a figure, in units of the drawing. */
const LABEL = [32, 13] as const;

/** Moves figures of one side down until none covers another. */
function apart<T extends { readonly anchor: string; readonly y: number }>(labels: readonly T[]): T[] {
  const last: Record<string, number> = {};
  return [...labels]
    .sort((a, b) => a.y - b.y)
    .map((l) => {
      const y = Math.max(l.y, (last[l.anchor] ?? Number.NEGATIVE_INFINITY) + LABEL[1]);
      last[l.anchor] = y;
      return { ...l, y };
    });
}

/** The outline seen along the axis, drawn as the tooth stands on the picture: facial up, mesial where the quadrant has it. */
export function Plan({
  curves,
  mesialSign,
  azimuth,
  pin,
  onPoint,
}: {
  curves: BenchView['curves'];
  mesialSign: number;
  /** Azimuth of the section, and the place in view (on the picture's axes). */
  azimuth?: number;
  pin?: readonly number[] | null;
  /** Place under the pointer, mm from the axis (mesial, facial); null when it leaves the tooth. */
  onPoint?: (place: readonly [number, number] | null) => void;
}) {
  const reach = Math.max(4, ...(curves['plan.tooth'] ?? []).flatMap((p) => [Math.abs(p[0]), Math.abs(p[1])]));
  const scale = (W / 2 - 38) / reach;
  const x = (v: number): number => W / 2 + mesialSign * v * scale;
  const y = (v: number): number => H / 2 - 6 - v * scale;
  const path = (line: readonly (readonly number[])[] | undefined, close = false): string =>
    line?.length ? `M${line.map((p) => `${x(p[0]).toFixed(1)},${y(p[1]).toFixed(1)}`).join('L')}${close ? 'Z' : ''}` : '';
  const isthmus = curves['plan.isthmus'];
  const width = isthmus ? Math.hypot(isthmus[1][0] - isthmus[0][0], isthmus[1][1] - isthmus[0][1]) : null;
  const condenser = curves['plan.condenser']?.[0];
  const grooves = Object.keys(curves).filter((k) => k.startsWith('plan.groove.'));
  const marks = Object.entries(curves).flatMap(([k, [from, to]]) => {
    if (!k.startsWith('plan.mark.')) return [];
    return [{ name: k.slice('plan.mark.'.length), from, to, width: from[2] ?? Math.hypot(to[0] - from[0], to[1] - from[1]) }];
  });
  const words = [
    width === null ? 'no isthmus was read' : `isthmus ${width.toFixed(2)} mm`,
    ...marks.map((m) => `${m.name} ${m.width.toFixed(2)} mm`),
    condenser ? `widest condenser that goes in ${(2 * condenser[2]).toFixed(2)} mm` : 'no floor was read',
  ];
  const labels = apart(
    marks.map((m) => {
      const right = x(m.to[0]) > W / 2;
      return {
        name: m.name,
        text: m.width.toFixed(2),
        anchor: right ? ('start' as const) : ('end' as const),
        x: right ? Math.min(x(m.to[0]) + 3, W - LABEL[0]) : Math.max(x(m.to[0]) - 3, LABEL[0]),
        y: y(m.to[1]) + (m.name.endsWith('facial') ? -4 : m.name.endsWith('lingual') ? 12 : 4),
      };
    }),
  );
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      className="block h-full w-full"
      role="img"
      aria-label={`Outline from occlusal: ${words.join(', ')}.`}
      onPointerMove={(e) => {
        if (!onPoint) return;
        const box = e.currentTarget.getScreenCTM();
        if (!box) return;
        const q = new DOMPoint(e.clientX, e.clientY).matrixTransform(box.inverse());
        const [px, py] = [(mesialSign * (q.x - W / 2)) / scale, (H / 2 - 6 - q.y) / scale];
        onPoint(Math.hypot(px, py) < 1.2 * reach ? [px, py] : null);
      }}
      onPointerLeave={() => onPoint?.(null)}
    >
      <path d={path(curves['plan.tooth'], true)} className="fill-ground stroke-soft" strokeWidth="1" />
      {grooves.map((k) => (
        <path key={k} d={path(curves[k])} className="fill-none stroke-soft" strokeWidth="1" strokeDasharray="2 3" />
      ))}
      {['mesial', 'distal', 'oblique'].map((k) => (
        <path key={k} d={path(curves[`plan.ridge.${k}`])} className="fill-none stroke-[#9aa8a4]" strokeWidth="3" opacity="0.7" />
      ))}
      <path d={path(curves['plan.outline'], true)} className="fill-wash stroke-accent" strokeWidth="1.8" fillOpacity="0.8" />
      {Object.keys(curves)
        .filter((k) => k.startsWith('plan.gingival.'))
        .map((k) => (
          <path key={k} d={path(curves[k])} className="fill-none stroke-over" strokeWidth="2.4" />
        ))}
      {curves['plan.cusps']?.map((p) => (
        <path
          key={`${p[0]} ${p[1]}`}
          d={`M${x(p[0]) - 4},${y(p[1])}h8M${x(p[0])},${y(p[1]) - 4}v8`}
          className="stroke-ink"
          strokeWidth="1.2"
        />
      ))}
      {condenser && (
        <circle cx={x(condenser[0])} cy={y(condenser[1])} r={condenser[2] * scale} className="fill-none stroke-ink" strokeDasharray="4 2" />
      )}
      {isthmus && (
        <g className="stroke-under" strokeWidth="1.6">
          <line x1={x(isthmus[0][0])} y1={y(isthmus[0][1])} x2={x(isthmus[1][0])} y2={y(isthmus[1][1])} />
        </g>
      )}
      {marks.map((m) => (
        <line key={m.name} x1={x(m.from[0])} y1={y(m.from[1])} x2={x(m.to[0])} y2={y(m.to[1])} className="stroke-bad" strokeWidth="1.6" />
      ))}
      {labels.map((l) => (
        <text key={l.name} x={l.x} y={l.y} textAnchor={l.anchor} className="figure fill-bad text-[12px]">
          {l.text}
        </text>
      ))}
      {azimuth !== undefined && (
        <line
          x1={x(0)}
          y1={y(0)}
          x2={x(1.1 * reach * Math.sin((azimuth * Math.PI) / 180))}
          y2={y(1.1 * reach * Math.cos((azimuth * Math.PI) / 180))}
          className="stroke-soft"
          strokeDasharray="6 3"
          data-cut={Math.round(azimuth)}
        />
      )}
      {pin && <circle cx={W / 2 + pin[0] * scale} cy={y(pin[1])} r="4" className="fill-ink" />}
      <g className="fill-soft text-[12px]">
        <text x={W / 2} y="12" textAnchor="middle">
          facial
        </text>
        <text x={mesialSign > 0 ? W - 4 : 4} y={H / 2} textAnchor={mesialSign > 0 ? 'end' : 'start'}>
          mesial
        </text>
      </g>
      <g className="fill-ink text-[12px]">
        {width !== null && (
          <text x="4" y={H - 22}>
            isthmus <tspan className="figure fill-under">{width.toFixed(2)} mm</tspan>
          </text>
        )}
        {condenser && (
          <text x="4" y={H - 7}>
            widest condenser <tspan className="figure">{(2 * condenser[2]).toFixed(2)} mm</tspan>
          </text>
        )}
      </g>
    </svg>
  );
}
