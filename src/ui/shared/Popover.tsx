'use client';

import { useId, useLayoutEffect, useRef, useState, type ReactNode } from 'react';

/** How far a panel stays away from its button and from the edges of the window. */
const GAP = 6;

/** A button that opens a panel beside it. A click elsewhere or Escape closes it again. */
export function Popover({
  face,
  label,
  title = label,
  className = 'btn btn-paper btn-sm',
  disabled = false,
  children,
}: {
  /** What stands on the button. */
  face: ReactNode;
  /** What the button is called, for those who do not see its face. */
  label: string;
  title?: string;
  className?: string;
  disabled?: boolean;
  /** The panel; is given a function that closes it. */
  children: (close: () => void) => ReactNode;
}) {
  const id = useId();
  const button = useRef<HTMLButtonElement>(null);
  const panel = useRef<HTMLDivElement>(null);
  const [isOpen, setOpen] = useState(false);
  useLayoutEffect(() => {
    if (!isOpen || !panel.current || !button.current) return;
    const at = button.current.getBoundingClientRect();
    const { offsetWidth: width, offsetHeight: height, style } = panel.current;
    const below = at.bottom + GAP;
    const fits = below + height <= window.innerHeight - GAP;
    style.left = `${Math.max(GAP, Math.min(at.left, window.innerWidth - width - GAP))}px`;
    style.top = `${fits ? below : Math.max(GAP, at.top - height - GAP)}px`;
  }, [isOpen]);
  return (
    <>
      <button
        ref={button}
        type="button"
        popoverTarget={id}
        className={className}
        disabled={disabled}
        aria-label={label}
        aria-expanded={isOpen}
        title={title}
        onClick={(event) => event.stopPropagation()}
      >
        {face}
      </button>
      <div
        ref={panel}
        id={id}
        popover="auto"
        role="group"
        aria-label={label}
        onToggle={(event) => setOpen(event.newState === 'open')}
        onClick={(event) => event.stopPropagation()}
        className="bg-base-100 text-base-content border-base-300 rounded-box fixed m-0 max-h-[70vh] max-w-sm overflow-y-auto border p-3 text-left text-sm font-normal whitespace-normal shadow-lg"
      >
        {isOpen && children(() => panel.current?.hidePopover())}
      </div>
    </>
  );
}
