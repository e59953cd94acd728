import type { ReactNode } from 'react';
import { Modal } from './Modal.tsx';

interface Props {
  readonly question: string;
  readonly children?: ReactNode;
  readonly yes: string;
  readonly no: string;
  readonly onYes: () => void;
  readonly onNo: () => void;
}

/** Asks once before an act that others will see. Escape means no, and no has the focus. */
export function Ask({ question, children, yes, no, onYes, onNo }: Props) {
  return (
    <Modal label={question} onClose={onNo}>
      <h2 className="mb-2 text-lg font-bold">{question}</h2>
      <div className="max-h-[50vh] overflow-y-auto text-soft">{children}</div>
      <form method="dialog" className="mt-4 flex justify-end gap-2">
        <button type="submit" className="quiet">
          {no}
        </button>
        <button type="button" className="act" onClick={onYes}>
          {yes}
        </button>
      </form>
    </Modal>
  );
}
