'use client';

import { useHotkeys } from 'react-hotkeys-hook';
import { anywhere, pressButton } from '../shared/keys';
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
  const bound: [keys: string, work: () => void][] = [];
  const bind = (keys: string, work: () => void) => bound.push([keys, work]);
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
  bind('equal, shift+equal, plus, add', () => closer(0.5));
  bind('minus, subtract', () => closer(2));
  bind('0', whole);
  bind('9', toMark);
  bind('home', () => go(0));
  bind('end', () => go(frames - 1));
  bind('left', () => step(-1));
  bind('right', () => step(1));
  bind('shift+left', () => page(-1));
  bind('shift+right', () => page(1));
  bind('comma', () => mark.toSilence(-1));
  bind('period', () => mark.toSilence(1));
  bind('bracketleft', () => mark.edgeHere('start'));
  bind('bracketright', () => mark.edgeHere('end'));
  bind('ctrl+a, meta+a', mark.all);
  bind('escape', () => void (document.querySelector(':popover-open') ?? mark.clear()));
  bind('q', () => mark.nudge('start', -1));
  bind('w', () => mark.nudge('start', 1));
  bind('o', () => mark.nudge('end', -1));
  bind('p', () => mark.nudge('end', 1));
  bind('s', () => mark.hearEdge('start'));
  bind('d', () => mark.hearEdge('end'));
  bind('shift+space', mark.play);
  bind('t', () => show(useDesk.getState().shown === 'source' ? 'shaped' : 'source'));
  bind('y', () => useHabits.setState(({ scale }) => ({ scale: scale === 'db' ? 'linear' : 'db' })));
  bind('r', () => useHabits.setState(({ ruler }) => ({ ruler: next<RulerUnit>(rulers, ruler) })));
  bind('g', () =>
    useHabits.setState(({ hasSpectrogram }) => ({ hasSpectrogram: !hasSpectrogram })),
  );
  bind('c', () => useHabits.setState(({ isSnapping }) => ({ isSnapping: !isSnapping })));
  bind('u', () => useHabits.setState(({ nudge }) => ({ nudge: next<Nudge>(nudges, nudge) })));
  const buttons = {
    n: 'Only what sounds',
    a: 'Add a step',
    h: 'History',
    k: 'Saved recipes',
    'shift+k': 'Save the recipe',
    'shift+c': 'Copy the steps',
    'shift+v': 'Paste steps',
    'shift+s': 'Split into',
    'shift+d': 'Copy the sound',
  };
  for (const [key, label] of Object.entries(buttons)) bind(key, () => pressButton(label));
  for (const { key, run } of verbs) {
    // Enter presses what it is on.
    bind(key.toLowerCase(), () => void (key === 'Enter' && isOnControl() ? null : run()));
  }
  return bound.map(([keys, work]) => <Key key={keys} keys={keys} work={work} />);
}

/** One key, bound to what it does in the newest drawing. */
function Key({ keys, work }: { keys: string; work: () => void }) {
  useHotkeys(keys, work, { preventDefault: keys !== 'enter', ...anywhere }, [work]);
  return null;
}

function isOnControl(): boolean {
  return (
    document.activeElement?.matches('button, a, summary, select, input, [role=slider]') ?? false
  );
}
