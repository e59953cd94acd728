interface Props {
  readonly body: unknown;
  /** Name of the file without its ending. */
  readonly name: string;
  readonly out: string;
  /** Label of what takes a file in; nothing is taken in without. */
  readonly into: string | null;
  readonly onFile: (file: File) => void;
}

/** A body as a JSON file, out and in again. */
export function JsonFile({ body, name, out, into, onFile }: Props) {
  const address = (): string => URL.createObjectURL(new Blob([JSON.stringify(body, null, 2)], { type: 'application/json' }));
  return (
    <>
      <a className="quiet grid w-fit place-items-center" href={address()} download={`${name}.json`}>
        {out}
      </a>
      {into && (
        <label className="grid gap-1">
          {into}
          <input
            className="field py-2"
            type="file"
            accept=".json"
            onChange={(e) => {
              const file = e.target.files?.[0];
              if (file) onFile(file);
              // The same file, corrected meanwhile, can be chosen again.
              e.target.value = '';
            }}
          />
        </label>
      )}
    </>
  );
}
