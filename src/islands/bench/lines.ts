import type { RefObject } from 'react';
import type { PhraseView, ScoreView, TargetView } from '#contract/views.ts';
import type { HandMethod } from '#core/catalogue/terms.ts';

/** Props of every line in the list: score, open forms and acts. */
export interface LineProps {
  readonly score: ScoreView;
  readonly focus: number;
  /** A judgement on the line in focus that waits for its reason. */
  readonly asking: { readonly level: number | null; readonly made: boolean | null } | null;
  readonly canGrade: boolean;
  readonly onFocus: (index: number) => void;
  readonly onLevel: (level: number) => void;
  /** A critical error was made, was not, or stands as measured. */
  readonly onMade: (made: boolean | null) => void;
  readonly onAnswer: (reason: string) => void;
  readonly onGiveUp: () => void;
  readonly note: RefObject<HTMLInputElement | null>;
  readonly phrases: readonly PhraseView[];
  /** Place (reading|zone|stat) at which a reading by hand is being entered. */
  readonly byHand: string | null;
  readonly onByHand: (place: string | null) => void;
  /** The places are numbered on the picture: there is no scan. */
  readonly numbered: boolean;
  /** Index of the place of the open line that is in view. */
  readonly place: number;
  /** Null limits take the reading back. */
  readonly onHand: (t: Pick<TargetView, 'reading' | 'zone' | 'stat'>, method: HandMethod, lo: number | null, hi: number | null) => void;
  readonly commenting: boolean;
  readonly onCommenting: (open: boolean) => void;
  readonly onComment: (criterion: string, text: string) => void;
  /** The line or place under the pointer; picture, section and ring show it in preference to the focus. */
  readonly onHover: (at: { azimuth: number | null; point: readonly number[] | null } | null) => void;
  readonly onUnpin: (id: number) => void;
  /** Azimuth at which the tooth is cut: lines that have something to say there are marked. */
  readonly at: number | null;
}

export type Place = Pick<TargetView, 'reading' | 'zone' | 'stat'>;

export const placeKey = (t: Place): string => `${t.reading}|${t.zone ?? ''}|${t.stat}`;
