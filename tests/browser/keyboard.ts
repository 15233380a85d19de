import type { Page } from '@playwright/test';

/** A key as a keyboard sends it: where it lies, what it writes, and what is held with it. */
interface Pressed {
  code: string;
  key: string;
  shift?: true;
}

const SHIFT = 8;
const CTRL = 2;
const codes: Readonly<Record<string, number>> = { ctrl: CTRL, shift: SHIFT };

/** Where the signs lie that differ from layout to layout. Letters not named lie where they lie in the US. */
const layouts = {
  us: {
    '?': { code: 'Slash', key: '?', shift: true },
    '/': { code: 'Slash', key: '/' },
    '-': { code: 'Minus', key: '-' },
    '+': { code: 'Equal', key: '+', shift: true },
  },
  german: {
    '?': { code: 'Minus', key: '?', shift: true },
    '/': { code: 'Digit7', key: '/', shift: true },
    '-': { code: 'Slash', key: '-' },
    '+': { code: 'BracketRight', key: '+' },
    y: { code: 'KeyZ', key: 'y' },
    z: { code: 'KeyY', key: 'z' },
  },
} satisfies Record<string, Record<string, Pressed>>;

export type LayoutName = keyof typeof layouts;

/** Presses what is printed on a key, with what has to be held for it: "?", "ctrl+z", "shift+d". */
export async function strike(page: Page, layout: LayoutName, name: string): Promise<void> {
  const parts = name === '+' ? ['+'] : name.split('+');
  const sign = parts.at(-1) || '+';
  const own: Readonly<Record<string, Pressed>> = layouts[layout];
  const plain: Pressed = { code: `Key${sign.toUpperCase()}`, key: sign };
  const { code, key, shift } = own[sign] ?? plain;
  const held = parts.slice(0, -1);
  if (shift) held.push('shift');
  const modifiers = held.reduce((sum, one) => sum | (codes[one] ?? 0), 0);
  const isUpper = held.includes('shift') && /^[a-z]$/.test(key);
  const told = { code, key: isUpper ? key.toUpperCase() : key, modifiers };
  const client = await page.context().newCDPSession(page);
  const send = (type: string, more: object) =>
    client.send('Input.dispatchKeyEvent', { type, ...more } as never);
  for (const one of held) await send('keyDown', { ...modifierKeys[one], modifiers });
  // Text is written only where nothing but Shift is held.
  const isText = !held.includes('ctrl');
  await send('keyDown', { ...told, ...(isText && { text: told.key }) });
  await send('keyUp', told);
  for (const one of held.reverse()) await send('keyUp', { ...modifierKeys[one] });
  await client.detach();
}

const modifierKeys: Readonly<Record<string, object>> = {
  ctrl: { code: 'ControlLeft', key: 'Control' },
  shift: { code: 'ShiftLeft', key: 'Shift' },
};

/** What has the focus: its name, or its tag. */
export const focused = (page: Page) =>
  page.evaluate(() => {
    const { activeElement: now } = document;
    return now?.getAttribute('aria-label') ?? now?.textContent?.trim().slice(0, 60) ?? null;
  });

/** Whether the focus is lost to the page. */
export const isFocusLost = (page: Page) =>
  page.evaluate(() => document.activeElement === document.body || !document.activeElement);
