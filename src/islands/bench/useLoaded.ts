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

/** Loads picture and profiles of a measurement, or the master's picture where there is none, and reports what could not be loaded. */
export function useLoaded(
  { measurement, attempt }: Pick<BenchView, 'measurement' | 'attempt'>,
  canGrade: boolean,
  tell: (problem: string) => void,
) {
  const [loaded, setLoaded] = useState<Loaded | null>(null);
  const [profiles, setProfiles] = useState<ProfileView[] | null>(null);
  useEffect(() => {
    const failed = (e: unknown) =>
      tell(`The picture could not be loaded (${(e as Error).message}). The readings are unaffected; reload the page to try again.`);
    // Without a scan the master is what is read on by hand.
    const picture = measurement?.display ?? (canGrade ? `/api/attempts/${attempt.id}/master` : null);
    if (picture === null) return;
    fetch(picture)
      .then((r) => (r.ok ? r.arrayBuffer() : Promise.reject(new Error(`answer ${r.status}`))))
      .then((b) => setLoaded({ ...unpackDisplay(b), display: b }))
      .catch(failed);
    if (!measurement) return;
    fetch(measurement.profiles)
      .then((r) => (r.ok ? r.json() : Promise.reject(new Error(`answer ${r.status}`))))
      .then((j) => setProfiles(v.parse(ProfilesFile, j).profiles))
      .catch(failed);
  }, [measurement, attempt.id, canGrade, tell]);
  return { loaded, profiles };
}
