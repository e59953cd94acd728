import { EXCURSION_WORDS, MASTERS } from '#words/masters.ts';

type Way = keyof typeof EXCURSION_WORDS;
const WAYS = Object.keys(EXCURSION_WORDS) as Way[];

/** Which way the lower jaw has glided, and what share of that way. */
interface Glided {
  readonly which: Way;
  readonly share: number;
}

interface Props {
  readonly glided: Glided;
  /** Length of the whole way, mm. */
  readonly path_mm: number;
  readonly onGlide: (g: Glided) => void;
}

/** Glides one jaw along the other: the way by its button, how far by the slider. */
export function Glide({ glided, path_mm, onGlide }: Props) {
  return (
    <>
      <fieldset className="flex flex-wrap gap-1" aria-label={MASTERS.way}>
        {WAYS.map((which) => (
          <button
            key={which}
            type="button"
            className="quiet"
            aria-pressed={glided.which === which}
            onClick={() => onGlide({ ...glided, which })}
          >
            {EXCURSION_WORDS[which]}
          </button>
        ))}
      </fieldset>
      <label className="grid gap-1">
        <span className="flex justify-between">
          {MASTERS.along} <span className="figure">{(glided.share * path_mm).toFixed(1)} mm</span>
        </span>
        <input
          type="range"
          min={0}
          max={1}
          step={0.05}
          value={glided.share}
          onChange={(e) => onGlide({ ...glided, share: e.target.valueAsNumber })}
        />
      </label>
    </>
  );
}
