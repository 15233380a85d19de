'use client';

import { useEffect, useRef, type ReactNode } from 'react';

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
  useEffect(() => {
    if (isOpen) dialog.current?.showModal();
    else dialog.current?.close();
  }, [isOpen]);
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
        {isOpen && children}
      </div>
    </dialog>
  );
}
