import { useEffect, useState } from 'react';
import * as v from 'valibot';
import { Settings, USUAL_SETTINGS } from '#contract/settings.ts';
import { setWriting } from '#words/writing.ts';

/** What the page carries of its reader's settings. */
export function ownSettings(): Settings {
  try {
    return v.parse(Settings, JSON.parse(document.documentElement.dataset.settings ?? '{}'));
  } catch {
    return USUAL_SETTINGS;
  }
}

/** Writes from now on as the reader wants; for islands that only the browser draws. */
export const writeAsOwn = (): void => setWriting(ownSettings());

/** For islands that the server has drawn as usual: what it drew is taken over first, then written again. The key changes with it. */
export function useOwnWriting(): string {
  const [key, setKey] = useState('usual');
  useEffect(() => {
    writeAsOwn();
    const { numbering, digits, dates } = ownSettings();
    const isUsual = numbering === USUAL_SETTINGS.numbering && digits === USUAL_SETTINGS.digits && dates === USUAL_SETTINGS.dates;
    if (!isUsual) setKey(`${numbering} ${digits} ${dates}`);
  }, []);
  return key;
}
