import { GAP_TINTS } from '#viewer/Arch.tsx';
import { MASTERS, PART_WORDS } from '#words/masters.ts';
import type { Across } from './arch.worker.ts';

const LOOKS = ['occlusal', 'facial', 'lingual', 'mesial', 'distal'] as const;
export type Look = (typeof LOOKS)[number];

interface Props {
  readonly look: Look | null;
  readonly isCutting: boolean;
  readonly across: Across;
  readonly onLook: (from: Look) => void;
  readonly onCut: () => void;
  readonly onAcross: (a: Across) => void;
}

/** From where the arch is looked at, and the tool that cuts it. */
export function Looks({ look, isCutting, across, onLook, onCut, onAcross }: Props) {
  return (
    <div className="absolute left-2 top-2 flex max-w-[calc(100%-1rem)] flex-wrap gap-1">
      {LOOKS.map((from) => (
        <button key={from} type="button" className="quiet !min-h-8" aria-pressed={look === from} onClick={() => onLook(from)}>
          {from}
        </button>
      ))}
      <button type="button" className="quiet !min-h-8" aria-pressed={isCutting} onClick={onCut}>
        {MASTERS.sectionTool}
      </button>
      {isCutting && (
        <select
          className="field !min-h-8 !w-auto"
          aria-label={MASTERS.section}
          value={across}
          onChange={(e) => onAcross(e.target.value as Across)}
        >
          <option>faciolingual</option>
          <option>mesiodistal</option>
        </select>
      )}
    </div>
  );
}

const SWATCH = ['#b8bdbd', '#f2e6c2', '#a8c9db', '#b3d6bd', '#e0bab3'];

/** What the arch's colours mean: its parts, or how near the other jaw is. */
export function Colours({ isBite }: { readonly isBite: boolean }) {
  const legend = isBite
    ? GAP_TINTS.map((g) => ({ word: g.word, colour: `rgb(${g.tint.map((v) => Math.round(255 * v)).join()})` }))
    : PART_WORDS.map((w, i) => ({ word: w, colour: SWATCH[i] }));
  return (
    <ul className="absolute bottom-2 left-2 flex flex-wrap gap-x-3 rounded-sm bg-panel/90 px-2 py-1" aria-label="Colours">
      {legend.map((l) => (
        <li key={l.word} className="flex items-center gap-1">
          <span className="inline-block size-3 border border-line" style={{ background: l.colour }} />
          {l.word}
        </li>
      ))}
    </ul>
  );
}
