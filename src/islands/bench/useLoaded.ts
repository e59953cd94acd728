import { useEffect, useState } from 'react';
import * as v from 'valibot';
import { type DisplayHeader, type DisplayMesh, unpackDisplay } from '#contract/display.ts';
import { ProfilesFile, type ProfileView } from '#contract/profiles.ts';
import type { BenchView } from '#contract/views.ts';

export interface Loaded {
  readonly header: DisplayHeader;
  readonly meshes: DisplayMesh[];
  /** The file's bytes, which the probe's worker needs too. */
  readonly display: ArrayBuffer;
}

/** Loads picture and profiles of a measurement, and reports what could not be loaded. */
export function useLoaded(measurement: BenchView['measurement'], tell: (problem: string) => void) {
  const [loaded, setLoaded] = useState<Loaded | null>(null);
  const [profiles, setProfiles] = useState<ProfileView[] | null>(null);
  useEffect(() => {
    if (!measurement) return;
    const failed = (e: unknown) =>
      tell(`The picture could not be loaded (${(e as Error).message}). The readings are unaffected; reload the page to try again.`);
    fetch(measurement.display)
      .then((r) => (r.ok ? r.arrayBuffer() : Promise.reject(new Error(`answer ${r.status}`))))
      .then((b) => setLoaded({ ...unpackDisplay(b), display: b }))
      .catch(failed);
    fetch(measurement.profiles)
      .then((r) => (r.ok ? r.json() : Promise.reject(new Error(`answer ${r.status}`))))
      .then((j) => setProfiles(v.parse(ProfilesFile, j).profiles))
      .catch(failed);
  }, [measurement, tell]);
  return { loaded, profiles };
}
