import { createContext, useContext, useLayoutEffect, useRef } from 'react';

/** What keys do, by their names: "?", "shift+d", "ctrl+z", "up". Command counts as Ctrl. */
export type Bindings = Readonly<Record<string, (event: KeyboardEvent) => void>>;

interface Bound {
  current: Bindings;
}

/** Something that lies over what was there before: beneath it nothing hears keys. */
export interface Layer {
  /** null for the page itself, which nobody closes. */
  close: (() => void) | null;
  bound: Set<Bound>;
}

const page: Layer = { close: null, bound: new Set() };
/** From the page up to what lies on top. */
const layers: Layer[] = [page];

export const LayerContext = createContext<Layer>(page);

/** Puts a layer on top, until the answer is called. */
export function putOnTop(layer: Layer): () => void {
  layers.push(layer);
  return () => void layers.splice(layers.indexOf(layer), 1);
}

/** Binds keys while a component is there; they are heard while nothing lies over it. The latest binding wins. */
export function useKeys(bindings: Bindings): void {
  const { bound } = useContext(LayerContext);
  const own = useRef<Bindings>(bindings);
  own.current = bindings;
  // With the drawing, not some time behind it: a key that is pressed at once is meant.
  useLayoutEffect(() => {
    bound.add(own);
    return () => void bound.delete(own);
  }, [bound]);
}

const names: Readonly<Record<string, string>> = {
  ' ': 'space',
  ArrowUp: 'up',
  ArrowDown: 'down',
  ArrowLeft: 'left',
  ArrowRight: 'right',
};

/**
 * The name of the key that was pressed, by what is printed on it: that differs from layout to layout, and whether
 * a sign needs Shift does too. Only letters and keys without a sign tell Shift apart.
 */
export function keyName(event: KeyboardEvent): string {
  const { key, code } = event;
  // AltGr writes signs; on some systems it comes as Ctrl and Alt.
  const isSign = event.getModifierState('AltGraph');
  const isCharacter = [...key].length === 1;
  const isLetter = /^\p{L}$/u.test(key);
  // Keys of other scripts have Latin letters printed on them as well.
  const latin = /^Key([A-Z])$/.exec(code)?.[1];
  const letter = isLetter && !/^\p{Script=Latin}$/u.test(key) && latin ? latin : key;
  const name = names[key] ?? letter.toLowerCase();
  const isShift = event.shiftKey && (isLetter || !isCharacter || key === ' ');
  const isCtrl = !isSign && (event.ctrlKey || event.metaKey);
  const isAlt = !isSign && event.altKey;
  return [isCtrl && 'ctrl', isAlt && 'alt', isShift && 'shift', name].filter(Boolean).join('+');
}

const TEXT = 'input:not([type=range], [type=checkbox], [type=radio]), textarea, [contenteditable]';
const PRESSED = 'button, a, summary, input, [role=button], [role=radio], [role=menuitem]';
const MOVED = 'input[type=range], input[type=radio], [role=slider], [role=radio]';
const moving = /^(shift\+)?(up|down|left|right|home|end|pageup|pagedown)$/;

/** Whether the key means something of its own to what has the focus. */
function belongsTo(target: Element, name: string): boolean {
  if (target.matches(TEXT)) return true;
  if (target.matches('select')) return !name.startsWith('ctrl+');
  if (/^(shift\+)?(enter|space)$/.test(name)) return target.matches(PRESSED);
  return moving.test(name) && target.matches(MOVED);
}

function hear(event: KeyboardEvent): void {
  if (event.defaultPrevented || event.isComposing) return;
  const top = layers.at(-1)!;
  if (event.key === 'Escape' && top.close) {
    event.preventDefault();
    top.close();
    return;
  }
  const name = keyName(event);
  if (event.target instanceof Element && belongsTo(event.target, name)) return;
  const work = [...top.bound].findLast(({ current }) => current[name])?.current[name];
  if (!work) return;
  event.preventDefault();
  work(event);
}

if (typeof window !== 'undefined') window.addEventListener('keydown', hear);

/** Does what a button of the station does whose name begins so. */
export function pressButton(label: string): void {
  const named = (tag: string) => `main ${tag}[aria-label^="${label}"]`;
  const found = document.querySelector<HTMLElement>(`${named('button')}, ${named('summary')}`);
  // What opens in its place has no focus of its own to give.
  if (found?.matches('summary')) found.focus();
  found?.click();
}
