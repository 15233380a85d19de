'use client';

import { useRef, type ReactNode } from 'react';
import { Layered } from './Layered';

/** A sheet over the page that is closed by Escape, by a click beside it, or by its own buttons. */
export function Dialog({
  title,
  isOpen,
  onClose,
  width = 'max-w-lg',
  children,
}: {
  title: string;
  isOpen: boolean;
  onClose: () => void;
  width?: string;
  children: ReactNode;
}) {
  const dialog = useRef<HTMLDialogElement>(null);
  return (
    <dialog
      ref={dialog}
      className="modal"
      aria-label={title}
      onClose={onClose}
      onClick={(event) => {
        if (event.target === dialog.current) onClose();
      }}
    >
      <div className={`modal-box ${width}`}>
        <h2 className="font-serif text-2xl">{title}</h2>
        {isOpen && (
          <Layered
            of={dialog}
            show={() => dialog.current?.showModal()}
            hide={() => dialog.current?.close()}
            onClose={onClose}
          >
            {children}
          </Layered>
        )}
      </div>
    </dialog>
  );
}
