import { useState } from 'react';
import { CATALOGUE } from '#core/catalogue/catalogue.ts';
import type { Stat } from '#core/catalogue/terms.ts';
import { CUSP_GROUPS } from '#core/catalogue/zones.ts';
import { RUBRIC_WORDS } from '#words/rubric.ts';
import type { Place } from './state.ts';

const READINGS = [...CATALOGUE].filter((e) => !e.sized).sort((a, b) => a.title.localeCompare(b.title));

/** A reading, its place and its statistic, chosen from what the catalogue has: nothing else can be asked for. */
export function PickReading({ label, onPick }: { readonly label: string; readonly onPick: (p: Place) => void }) {
  const [name, setName] = useState('');
  const entry = READINGS.find((e) => e.name === name);
  const zones = entry ? [...entry.zones.list, ...('cusps' in entry.zones ? Object.keys(CUSP_GROUPS) : [])] : [];
  const [zone, setZone] = useState('');
  const [stat, setStat] = useState('');
  const stats = entry ? Object.keys(entry.stats) : [];
  const ready = entry && (zones.includes(null) || zone !== '') && stat !== '';
  return (
    <fieldset className="flex flex-wrap items-end gap-2">
      <legend className="sr-only">{label}</legend>
      <select
        className="field !w-auto max-w-64"
        aria-label={`${label}: ${RUBRIC_WORDS.reading}`}
        value={name}
        onChange={(e) => {
          setName(e.target.value);
          setZone('');
          const own = READINGS.find((q) => q.name === e.target.value);
          setStat(own ? (Object.keys(own.stats)[0] ?? '') : '');
        }}
      >
        <option value="">{RUBRIC_WORDS.choose}</option>
        {READINGS.map((e) => (
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
