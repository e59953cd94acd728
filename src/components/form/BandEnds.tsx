const ENDS = ['lo', 'hi'] as const;

interface Props {
  readonly band: { readonly lo: number | null; readonly hi: number | null };
  readonly disabled: boolean;
  readonly open: string;
  readonly label: (end: 'lo' | 'hi') => string;
  readonly onEnd: (end: 'lo' | 'hi', value: number | null) => void;
}

/** Both ends of a band; an empty one is open. */
export function BandEnds({ band, disabled, open, label, onEnd }: Props) {
  return ENDS.map((end) => (
    <input
      key={end}
      className="field figure !min-h-8 !w-20"
      type="number"
      step="any"
      disabled={disabled}
      placeholder={open}
      aria-label={label(end)}
      value={band[end] ?? ''}
      onChange={(e) => onEnd(end, e.target.value === '' ? null : e.target.valueAsNumber)}
    />
  ));
}
