/** What went wrong, read out as it appears; nothing where nothing did. */
export function Problem({ text }: { readonly text: string | null }) {
  return (
    text && (
      <p role="alert" className="border-l-4 border-bad bg-panel pl-2">
        {text}
      </p>
    )
  );
}
