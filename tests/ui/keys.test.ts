import './page';
import { keyName } from '@/ui/shared/keys';

/** A key as a browser tells it. */
function told(key: string, code: string, held: readonly string[] = []): KeyboardEvent {
  return {
    key,
    code,
    shiftKey: held.includes('Shift'),
    ctrlKey: held.includes('Ctrl'),
    metaKey: held.includes('Command'),
    altKey: held.includes('Alt'),
    getModifierState: (name: string) => held.includes(name),
  } as unknown as KeyboardEvent;
}

test.each([
  // Signs are themselves, wherever they lie and whatever has to be held for them.
  ['?', 'Slash', ['Shift'], '?'],
  ['?', 'Minus', ['Shift'], '?'],
  ['/', 'Digit7', ['Shift'], '/'],
  ['+', 'BracketRight', [], '+'],
  ['[', 'Digit8', ['AltGraph'], '['],
  // On some systems AltGr comes as Ctrl and Alt.
  [']', 'Digit9', ['AltGraph', 'Ctrl', 'Alt'], ']'],
  ['1', 'Digit1', ['Shift'], '1'],
  // Letters tell Shift apart, but not Caps Lock.
  ['d', 'KeyD', [], 'd'],
  ['D', 'KeyD', [], 'd'],
  ['D', 'KeyD', ['Shift'], 'shift+d'],
  ['z', 'KeyY', ['Ctrl'], 'ctrl+z'],
  ['z', 'KeyZ', ['Command'], 'ctrl+z'],
  ['Z', 'KeyZ', ['Ctrl', 'Shift'], 'ctrl+shift+z'],
  // Other scripts have Latin letters printed beside their own.
  ['я', 'KeyZ', ['Ctrl'], 'ctrl+z'],
  ['ы', 'KeyS', [], 's'],
  ['ö', 'Semicolon', [], 'ö'],
  // Keys without a sign.
  [' ', 'Space', [], 'space'],
  [' ', 'Space', ['Shift'], 'shift+space'],
  ['ArrowLeft', 'ArrowLeft', ['Shift'], 'shift+left'],
  ['PageUp', 'PageUp', [], 'pageup'],
  ['F2', 'F2', [], 'f2'],
  ['Enter', 'NumpadEnter', [], 'enter'],
  ['x', 'KeyX', ['Alt'], 'alt+x'],
])('%s at %s with %j is %s', (key, code, held, name) => {
  expect(keyName(told(key, code, held))).toBe(name);
});
