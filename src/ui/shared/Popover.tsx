'use client';

import { useId, useLayoutEffect, useRef, useState, type ReactNode } from 'react';
import { Layered } from './Layered';

/** How far a panel stays away from its button and from the edges of the window. */
const GAP = 6;

/** A button that opens a panel beside it. A click elsewhere or Escape closes it again. */
export function Popover({
  face,
  label,
  title = label,
  className = 'btn btn-paper btn-sm',
  disabled = false,
  tabIndex,
  children,
}: {
  /** What stands on the button. */
  face: ReactNode;
  /** What the button is called, for those who do not see its face. */
  label: string;
  title?: string;
  className?: string;
  disabled?: boolean;
  tabIndex?: number;
  /** The panel; is given a function that closes it. */
  children: (close: () => void) => ReactNode;
}) {
  const id = useId();
  const button = useRef<HTMLButtonElement>(null);
  const panel = useRef<HTMLDivElement>(null);
  const [isOpen, setOpen] = useState(false);
  useLayoutEffect(() => {
    if (!isOpen || !panel.current || !button.current) return;
    // Opened by a key its button may be out of view.
    button.current.scrollIntoView({ block: 'nearest' });
    const at = button.current.getBoundingClientRect();
    const { offsetWidth: width, offsetHeight: height, style } = panel.current;
    const below = at.bottom + GAP;
    const fits = below + height <= window.innerHeight - GAP;
    style.left = `${Math.max(GAP, Math.min(at.left, window.innerWidth - width - GAP))}px`;
    const above = Math.min(at.top, window.innerHeight) - height - GAP;
    style.top = `${fits ? below : Math.max(GAP, above)}px`;
  }, [isOpen]);
  const close = () => panel.current?.hidePopover();
  return (
    <>
      <button
        ref={button}
        type="button"
        popoverTarget={id}
        className={className}
        disabled={disabled}
        tabIndex={tabIndex}
        aria-label={label}
        aria-expanded={isOpen}
        title={title}
        onClick={(event) => {
          event.stopPropagation();
          // By our own hand it is open at once: the very next key is meant for it.
          event.preventDefault();
          panel.current?.togglePopover();
        }}
      >
        {face}
      </button>
      <div
        ref={panel}
        id={id}
        popover="auto"
        role="group"
        aria-label={label}
        onBeforeToggle={(event) => setOpen(event.newState === 'open')}
        onClick={(event) => event.stopPropagation()}
        className="bg-base-100 text-base-content border-base-300 rounded-box fixed m-0 max-h-[70vh] max-w-sm overflow-y-auto border p-3 text-left text-sm font-normal whitespace-normal shadow-lg"
      >
        {isOpen && (
          <Layered of={panel} onClose={close}>
            {children(close)}
          </Layered>
        )}
      </div>
    </>
  );
}
