import { useState } from 'react';
import { FamilyPicture } from '#charts/Family.tsx';
import { CATALOGUE } from '#core/catalogue/catalogue.ts';
import type { Stat } from '#core/catalogue/terms.ts';
import { CUSP_GROUPS, standsForSeveral } from '#core/catalogue/zones.ts';
import { FAMILIES, type Family, familyOf } from '#words/families.ts';
import { RUBRIC_WORDS } from '#words/rubric.ts';
import type { Place } from './state.ts';

const READINGS = [...CATALOGUE].filter((e) => !e.sized).sort((a, b) => a.title.localeCompare(b.title));

const FAMILY_NAMES = (Object.keys(FAMILIES) as Family[]).filter((f) => READINGS.some((e) => familyOf(e.name) === f));

/** A reading, its place and its statistic, chosen from what the catalogue has: nothing else can be asked for. */
export function PickReading({
  label,
  onePlace = false,
  onPick,
}: {
  readonly label: string;
  /** No words that stand for several places. */
  readonly onePlace?: boolean;
  readonly onPick: (p: Place) => void;
}) {
  const [family, setFamily] = useState<Family | null>(null);
  const [name, setName] = useState('');
  const entry = READINGS.find((e) => e.name === name);
  const all = entry ? [...entry.zones.list, ...('cusps' in entry.zones ? Object.keys(CUSP_GROUPS) : [])] : [];
  const zones = onePlace ? all.filter((z) => !standsForSeveral(z)) : all;
  const [zone, setZone] = useState('');
  const [stat, setStat] = useState('');
  const stats = entry ? Object.keys(entry.stats) : [];
  const offered = READINGS.filter((e) => family === null || familyOf(e.name) === family);
  const choose = (next: string): void => {
    setName(next);
    setZone('');
    const own = READINGS.find((q) => q.name === next);
    setStat(own ? (Object.keys(own.stats)[0] ?? '') : '');
  };
  const ready = entry && (zones.includes(null) || zone !== '') && stat !== '';
  return (
    <fieldset className="flex flex-wrap items-end gap-2">
      <legend className="sr-only">{label}</legend>
      <div className="flex basis-full flex-wrap gap-1">
        {FAMILY_NAMES.map((f) => (
          <button
            key={f}
            type="button"
            className="grid w-[84px] justify-items-center rounded-sm border border-line bg-panel p-1 text-center text-sm leading-tight hover:border-accent aria-pressed:border-accent aria-pressed:bg-wash"
            aria-pressed={family === f}
            onClick={() => {
              const next = family === f ? null : f;
              setFamily(next);
              const only = READINGS.filter((e) => familyOf(e.name) === next);
              choose(next && only.length === 1 ? only[0].name : '');
            }}
          >
            <FamilyPicture family={f} />
            {FAMILIES[f].title}
          </button>
        ))}
      </div>
      <select
        className="field !w-auto max-w-64"
        aria-label={`${label}: ${RUBRIC_WORDS.reading}`}
        value={name}
        onChange={(e) => choose(e.target.value)}
      >
        <option value="">{RUBRIC_WORDS.choose}</option>
        {offered.map((e) => (
          <option key={e.name} value={e.name}>
            {e.title}
          </option>
        ))}
      </select>
      {entry && (
        <>
          <select
            className="field !w-auto"
            aria-label={`${label}: ${RUBRIC_WORDS.place}`}
            value={zone}
            onChange={(e) => setZone(e.target.value)}
          >
            <option value="">{zones.includes(null) ? RUBRIC_WORDS.whole : RUBRIC_WORDS.place}</option>
            {zones.flatMap((z) => (z === null ? [] : [<option key={z}>{z}</option>]))}
          </select>
          <select
            className="field !w-auto"
            aria-label={`${label}: ${RUBRIC_WORDS.stat}`}
            value={stat}
            onChange={(e) => setStat(e.target.value)}
          >
            {stats.map((s) => (
              <option key={s}>{s}</option>
            ))}
          </select>
        </>
      )}
      <button
        type="button"
        className="quiet"
        disabled={!ready}
        onClick={() => entry && onPick({ reading: entry.name, zone: zone || null, stat: stat as Stat })}
      >
        {RUBRIC_WORDS.add}
      </button>
    </fieldset>
  );
}
