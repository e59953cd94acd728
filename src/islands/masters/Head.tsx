import type { DraftView } from '#contract/master-draft.ts';
import { MASTERS } from '#words/masters.ts';
import { toothWords } from '#words/writing.ts';

/** Which master this is, from which files, and whether what was drawn is kept. */
export function Head({ draft, isKept }: { readonly draft: DraftView; readonly isKept: boolean | null }) {
  return (
    <div className="flex flex-wrap items-baseline gap-3">
      <a className="text-accent underline" href="/masters">
        {MASTERS.title}
      </a>
      <h1 className="text-lg font-bold">{draft.name}</h1>
      <span className="figure">{toothWords(draft.tooth)}</span>
      <span className="figure text-soft">{[draft.arch_name, draft.opposing_name, draft.bite_name].filter(Boolean).join(', ')}</span>
      {isKept !== null && (
        <span className="ml-auto text-soft" aria-live="polite">
          {isKept ? MASTERS.kept : MASTERS.unkept}
        </span>
      )}
    </div>
  );
}
