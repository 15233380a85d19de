/** What can have the focus by its nature, wherever it stands. */
const FOCUSABLE =
  'button, a[href], input:not([type=hidden]), select, textarea, summary, [tabindex="0"]';
const FIELD = 'input:not([type=hidden], :disabled), textarea:not(:disabled)';
const TYPED = 'input:not([type=checkbox], [type=radio], [type=range]), textarea, select';
/** Parts of the page among which the focus does not wander by itself. */
const REGION = 'dialog, [popover], main, header, section[aria-label="Listening"]';

/** What shows when pressed with a pointer where the keys go on. */
const KEEPS_POINTER_FOCUS = 'input, select, textarea, label, [aria-roledescription], [role=grid]';

/** What is opened by a press is there by then. */
const FORGET_MS = 150;

let pressed: HTMLElement | null = null;
let focused: HTMLElement | null = null;
/** What the pointer was last pressed on, since a key was. */
let pointed: Element | null = null;

/** What was pressed or had the focus when something opened: to be gone back to. */
export function pressedLast(): HTMLElement | null {
  return pressed ?? focused;
}

/** Whether the pointer was last used somewhere else: then the focus is meant to be there. */
export function wasPressedOutside(inside: HTMLElement | null): boolean {
  return pointed !== null && !inside?.contains(pointed) && pointed.isConnected;
}

/** Where somebody begins in a sheet or panel: in its first field, else on its first button. */
export function firstField(inside: HTMLElement): HTMLElement | null {
  return (
    inside.querySelector<HTMLElement>(FIELD) ??
    [...inside.querySelectorAll<HTMLElement>(FOCUSABLE)].find(isUsable) ??
    null
  );
}

function isUsable(element: Element): boolean {
  return element.isConnected && !element.matches(':disabled') && element.checkVisibility();
}

/**
 * Keeps the focus from getting lost to the page: when what has it goes, cannot be pressed any more or is put
 * elsewhere, it goes on to what is nearest. Until the answer is called.
 */
export function keepFocus(): () => void {
  let forgetting: ReturnType<typeof setTimeout> | undefined;
  let order: HTMLElement[] = [];
  let region: Element | null = null;

  const onFocus = ({ target }: FocusEvent) => {
    if (!(target instanceof HTMLElement)) return;
    focused = target;
    region = target.closest(REGION);
    order = [...(region ?? document).querySelectorAll<HTMLElement>(FOCUSABLE)];
  };
  const onPointer = ({ target }: PointerEvent) => {
    pointed = target instanceof Element ? target : null;
    // Who presses on nothing wants nothing to have it.
    const isOnNothing = target instanceof Element && !target.closest(`${FOCUSABLE}, label`);
    if (isOnNothing) focused = null;
  };
  const onMouse = (event: MouseEvent) => {
    const { target } = event;
    if (!(target instanceof Element) || target.closest(KEEPS_POINTER_FOCUS)) return;
    // A field is left, so that what was typed counts; from elsewhere a pressed button does not take the keys.
    if (document.activeElement?.matches('input, textarea, select')) return;
    if (target.closest('button, a, summary') && !target.closest('[draggable=true]')) {
      event.preventDefault();
    }
  };
  const onClick = ({ target, detail }: MouseEvent) => {
    const button = target instanceof Element ? target.closest<HTMLElement>(FOCUSABLE) : null;
    const hadFocus = focused !== null && focused !== document.body && isUsable(focused);
    // Pressed by a key from elsewhere: what had the focus gets it back.
    pressed = detail > 0 || !hadFocus ? button : focused;
    clearTimeout(forgetting);
    forgetting = setTimeout(() => (pressed = null), FORGET_MS);
  };
  const onKey = () => {
    pressed = null;
    pointed = null;
  };
  let checking: ReturnType<typeof setTimeout> | undefined;
  // Not at once: while the focus goes from one to another nothing has it for a moment.
  const check = () => {
    clearTimeout(checking);
    checking = setTimeout(restore);
  };
  const restore = () => {
    const active = document.activeElement;
    const isLost = !active || active === document.body || active.matches(':disabled');
    if (!isLost || !focused || !document.hasFocus()) return;
    nearest()?.focus({ preventScroll: true });
  };
  const nearest = (): HTMLElement | null => {
    if (focused && isUsable(focused)) return focused;
    const at = focused ? order.indexOf(focused) : -1;
    // Into a field the next keys would be typed.
    const isNext = (element: HTMLElement) => isUsable(element) && !element.matches(TYPED);
    const behind = order.slice(at + 1).find(isNext);
    const before = order.slice(0, Math.max(0, at)).findLast(isNext);
    return behind ?? before ?? document.querySelector('main');
  };
  const observer = new MutationObserver(check);
  observer.observe(document.body, {
    subtree: true,
    childList: true,
    attributeFilter: ['disabled', 'hidden'],
  });
  const ending = new AbortController();
  const { signal } = ending;
  const early = { signal, capture: true };
  document.addEventListener('focusin', onFocus, { signal });
  document.addEventListener('focusout', check, { signal });
  document.addEventListener('mousedown', onMouse, { signal });
  document.addEventListener('pointerdown', onPointer, early);
  document.addEventListener('click', onClick, early);
  document.addEventListener('keydown', onKey, early);
  return () => {
    observer.disconnect();
    ending.abort();
  };
}
