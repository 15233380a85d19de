'use client';

import {
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
  type ReactNode,
  type RefObject,
} from 'react';
import { firstField, pressedLast, wasPressedOutside } from './focus';
import { LayerContext, putOnTop, type Layer } from './keys';

/**
 * What is in a sheet or a panel while it is open: keys belong to it, Escape closes it, its first field has the
 * focus, and when it goes the focus goes back to what opened it.
 */
export function Layered({
  of,
  show,
  hide,
  onClose,
  children,
}: {
  /** The sheet or panel itself. */
  of: RefObject<HTMLElement | null>;
  /** Put it on the screen, where it is not there by itself. */
  show?: () => void;
  hide?: () => void;
  onClose: () => void;
  children: ReactNode;
}) {
  const close = useRef(onClose);
  close.current = onClose;
  const [layer] = useState<Layer>(() => ({ close: () => close.current(), bound: new Set() }));
  const screen = useRef({ show, hide });
  screen.current = { show, hide };
  useLayoutEffect(() => {
    const opener = pressedLast();
    // Where browsers go back to by themselves.
    const before = document.activeElement;
    const inside = of.current;
    screen.current.show?.();
    if (inside) firstField(inside)?.focus({ preventScroll: true });
    return () => {
      screen.current.hide?.();
      // Behind whatever the browser does about it when it hides things.
      queueMicrotask(() => {
        const now = document.activeElement;
        const isNowhere = !now || now === document.body || now === before || inside?.contains(now);
        if (isNowhere && !wasPressedOutside(inside)) opener?.focus();
      });
    };
  }, [of]);
  useEffect(() => putOnTop(layer), [layer]);
  return <LayerContext value={layer}>{children}</LayerContext>;
}
