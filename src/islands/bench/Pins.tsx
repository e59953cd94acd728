import { MapPin } from 'lucide-react';
import type { CriterionView } from '#contract/views.ts';
import { placeWords } from '#words/sides.ts';
import type { LineProps } from './lines.ts';

/** Places pinned to a criterion, with their comments. */
export function Pins({ c, ...p }: Pick<LineProps, 'canGrade' | 'onHover' | 'onUnpin'> & { c: CriterionView }) {
  if (c.pins.length === 0) return null;
  return (
    <ul className="mt-2 text-[13px]" aria-label={`Pins: ${c.title}`}>
      {c.pins.map((q) => (
        <li
          key={q.id}
          className="flex items-center gap-2 hover:bg-wash/60"
          onPointerEnter={() => p.onHover({ azimuth: q.azimuth, point: q.point })}
          onPointerLeave={() => p.onHover(null)}
        >
          <MapPin size={14} aria-hidden className="shrink-0 text-bad" />
          <span className="min-w-0 flex-1">
            {placeWords(q.azimuth)}
            {q.note && `: ${q.note}`}
          </span>
          {p.canGrade && (
            <button
              type="button"
              className="quiet !min-h-[32px] !px-2"
              aria-label={`Take out the pin ${placeWords(q.azimuth)}`}
              onClick={() => p.onUnpin(q.id)}
            >
              take out
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}
