import { type ReactNode, useEffect, useRef } from 'react';

interface Props {
  readonly label: string;
  readonly wide?: boolean;
  readonly onClose: () => void;
  readonly children: ReactNode;
}

/**
 * A dialog of the browser itself: it keeps the focus inside, gives it back where it was, and closes on Escape.
 * (A library's dialog writes a style sheet into the page, which the page's own policy forbids.)
 */
export function Modal({ label, wide = false, onClose, children }: Props) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    dialog.current?.showModal();
  }, []);
  return (
    <dialog
      ref={dialog}
      aria-label={label}
      className={`panel m-auto max-h-[94vh] overflow-y-auto p-5 shadow-lg backdrop:bg-ink/30 ${wide ? 'w-[min(860px,96vw)]' : 'w-[min(520px,94vw)]'}`}
      onClose={onClose}
    >
      {children}
    </dialog>
  );
}
