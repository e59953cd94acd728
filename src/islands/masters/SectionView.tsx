import { MASTERS } from '#words/masters.ts';
import type { SectionLines } from './arch.worker.ts';

/** mm shown to each side of the place, and up and down from it. */
const HALF = 9;

/** A cut through the arch at the clicked place, to scale: the arch solid, what bites against it thin. */
export function SectionView({ section, onClose }: { readonly section: SectionLines; readonly onClose: () => void }) {
  const path = (l: SectionLines['arch'][number]): string => `M${l.map(([s, z]) => `${s.toFixed(3)},${(-z).toFixed(3)}`).join('L')}`;
  const ends = section.across === 'mesiodistal' ? ['distal', 'mesial'] : ['lingual', 'facial'];
  return (
    <figure className="panel absolute bottom-10 right-2 w-64 p-2" aria-label={MASTERS.section}>
      <svg
        viewBox={`${-HALF} ${-HALF} ${2 * HALF} ${2 * HALF}`}
        role="img"
        aria-label={MASTERS.sectionOf(section.across)}
        className="bg-ground"
      >
        <title>{MASTERS.sectionOf(section.across)}</title>
        {Array.from({ length: 2 * HALF - 1 }, (_, i) => i - HALF + 1).map((k) => (
          <g key={k} className="stroke-line" strokeWidth={0.02}>
            <line x1={k} x2={k} y1={-HALF} y2={HALF} />
            <line y1={k} y2={k} x1={-HALF} x2={HALF} />
          </g>
        ))}
        {section.opposing.map((l, i) => (
          <path key={`o${i}`} d={path(l)} fill="none" className="stroke-soft" strokeWidth={0.06} />
        ))}
        {section.arch.map((l, i) => (
          <path key={`a${i}`} d={path(l)} fill="none" className="stroke-ink" strokeWidth={0.1} />
        ))}
        <circle r={0.22} className="fill-accent" />
      </svg>
      <figcaption className="flex items-center justify-between text-soft">
        <span>{ends[0]}</span>
        <button type="button" className="quiet !min-h-7" onClick={onClose}>
          {MASTERS.closeSection}
        </button>
        <span>{ends[1]}</span>
      </figcaption>
    </figure>
  );
}
