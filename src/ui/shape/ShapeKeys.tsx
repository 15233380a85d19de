'use client';

import { pressButton, useKeys } from '../shared/keys';
import { rulers, nudges, useDesk, useHabits, type Nudge, type RulerUnit } from './desk';
import { intoView } from './marking';
import { seek } from './playing';
import { useMark } from './useMark';
import { useVerbs } from './useVerbs';
import { useView } from './useView';
import { pan } from './view';
import { useWorkbench } from './workbench';

function next<Value extends string>(of: Readonly<Record<Value, unknown>>, value: Value): Value {
  const all = Object.keys(of) as Value[];
  return all[(all.indexOf(value) + 1) % all.length]!;
}

/** Every key of the workbench; the sheet that lists them is in the frame's `help`. */
export function ShapeKeys() {
  const { sound, shown } = useWorkbench();
  const { frames, rateHz } = shown.shape;
  const { closer, whole, toMark, show } = useView();
  const mark = useMark();
  const verbs = useVerbs();
  const { here } = mark;
  const go = (frame: number) => {
    const at = Math.max(0, Math.min(frames - 1, frame));
    seek(sound, at);
    intoView(at, frames);
  };
  const step = (direction: -1 | 1) => {
    const { nudge } = useHabits.getState();
    go(here() + direction * (nudge === 'frame' ? 1 : Math.round(rateHz / 1_000)));
  };
  const page = (direction: -1 | 1) => {
    const { view } = useDesk.getState();
    useDesk.setState({ view: pan(view, frames, (direction * (view.end - view.start)) / 2) });
  };
  const habits = (change: (now: ReturnType<typeof useHabits.getState>) => object) => () =>
    useHabits.setState((now) => change(now));
  useKeys({
    '+': () => closer(0.5),
    '=': () => closer(0.5),
    '-': () => closer(2),
    '0': whole,
    '9': toMark,
    home: () => go(0),
    end: () => go(frames - 1),
    left: () => step(-1),
    right: () => step(1),
    'shift+left': () => page(-1),
    'shift+right': () => page(1),
    ',': () => mark.toSilence(-1),
    '.': () => mark.toSilence(1),
    'shift+q': () => mark.edgeHere('start'),
    'shift+p': () => mark.edgeHere('end'),
    z: () => pressButton('Convert'),
    'ctrl+a': mark.all,
    escape: mark.clear,
    q: () => mark.nudge('start', -1),
    w: () => mark.nudge('start', 1),
    o: () => mark.nudge('end', -1),
    p: () => mark.nudge('end', 1),
    s: () => mark.hearEdge('start'),
    d: () => mark.hearEdge('end'),
    'shift+space': mark.play,
    j: () => document.querySelector<HTMLInputElement>('[aria-label="Marked part"] input')?.focus(),
    t: () => show(useDesk.getState().shown === 'source' ? 'shaped' : 'source'),
    y: habits(({ scale }) => ({ scale: scale === 'db' ? 'linear' : 'db' })),
    r: habits(({ ruler }) => ({ ruler: next<RulerUnit>(rulers, ruler) })),
    g: habits(({ hasSpectrogram }) => ({ hasSpectrogram: !hasSpectrogram })),
    c: habits(({ isSnapping }) => ({ isSnapping: !isSnapping })),
    u: habits(({ nudge }) => ({ nudge: next<Nudge>(nudges, nudge) })),
    ...Object.fromEntries(
      Object.entries(buttons).map(([key, label]) => [key, () => pressButton(label)]),
    ),
    ...Object.fromEntries(verbs.map(({ key, run }) => [key.toLowerCase(), run])),
  });
  return null;
}

/** Keys that press a button of the station. */
const buttons: Readonly<Record<string, string>> = {
  n: 'Only what sounds',
  a: 'Add a step',
  h: 'History',
  e: 'Send to',
  k: 'Saved recipes',
  'shift+k': 'Save the recipe',
  'shift+c': 'Copy the steps',
  'shift+v': 'Paste steps',
  'shift+s': 'Split into',
  'shift+d': 'Copy the sound',
};
