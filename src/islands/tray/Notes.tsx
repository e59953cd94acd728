interface Props {
  readonly error: string | null;
  readonly problems: readonly { readonly fileName: string; readonly message: string }[];
}

/** What went wrong, and what is to be said of files that were brought. */
export function Notes({ error, problems }: Props) {
  return (
    <>
      {error && (
        <p role="alert" className="mb-3 border-l-4 border-bad bg-panel p-2">
          {error}
        </p>
      )}
      {problems.length > 0 && (
        <ul className="mb-3 space-y-1" aria-label="About the files you brought">
          {problems.map((n, i) => (
            <li key={`${n.fileName}${i}`} className="border-l-4 border-under bg-panel p-2">
              {n.message}
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
