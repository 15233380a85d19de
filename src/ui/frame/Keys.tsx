'use client';

import { useRouter } from 'next/navigation';
import { useHotkeys } from 'react-hotkeys-hook';
import { Dialog } from '../shared/Dialog';
import { anywhere } from '../shared/keys';
import { useHistory } from '../shared/history';
import { useProject } from '../shared/project';
import { setLoop, setMatched, switchTo, toggle, useListening } from '../strip/listening';
import { shortcuts, useHelp } from './help';
import { stations } from './stations';

/** The keys that work at every station, and the sheet that lists all keys. */
export function Keys() {
  const router = useRouter();
  const { project } = useProject();
  const { open } = useHelp();
  const { back, forward } = useHistory();
  const numbers = stations.map((_, i) => String(i + 1));
  useHotkeys(numbers, (_, { keys }) => {
    const station = stations[Number(keys?.[0]) - 1];
    if (station) router.push(`/p/${project.id}/${station.path}`);
  });
  useHotkeys(
    'space',
    (event) => {
      if (event.defaultPrevented || hasOwnSpace(event.target as HTMLElement)) return;
      event.preventDefault();
      toggle();
    },
    { enableOnFormTags: true },
  );
  useHotkeys('l', () => setLoop(!useListening.getState().loop), anywhere);
  useHotkeys('m', () => setMatched(!useListening.getState().isMatched), anywhere);
  useHotkeys(
    'v',
    () => {
      const { versions, current } = useListening.getState();
      const next = versions[(versions.findIndex((v) => v.key === current) + 1) % versions.length];
      if (next) switchTo(next.key);
    },
    anywhere,
  );
  useHotkeys('shift+slash, ?', () => useHelp.setState({ open: true }), { useKey: true });
  useHotkeys('ctrl+z, meta+z', () => back(), { preventDefault: true, ...anywhere });
  useHotkeys('ctrl+y, ctrl+shift+z, meta+shift+z', () => forward(), {
    preventDefault: true,
    ...anywhere,
  });
  return (
    <Dialog
      title="Keyboard shortcuts"
      width="max-w-3xl"
      isOpen={open}
      onClose={() => useHelp.setState({ open: false })}
    >
      <div className="columns-1 gap-8 md:columns-2">
        {shortcuts.map(({ where, keys }) => (
          <section key={where} className="mt-4 break-inside-avoid">
            <h3 className="text-soft text-xs font-semibold">{where}</h3>
            <dl className="mt-1 grid grid-cols-[6.5rem_1fr] gap-y-1">
              {keys.map(([key, does]) => (
                <div key={key} className="contents">
                  <dt className="font-semibold">{key}</dt>
                  <dd>{does}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
      <form method="dialog" className="mt-5 text-right">
        <button className="btn btn-paper btn-sm">Close</button>
      </form>
    </Dialog>
  );
}

// The browser's own mark of a focus that came by keys is set by any key, the space bar too.
let cameByPointer = false;
if (typeof window !== 'undefined') {
  addEventListener('pointerdown', () => (cameByPointer = true), { capture: true });
  addEventListener('keydown', ({ key }) => key === 'Tab' && (cameByPointer = false), {
    capture: true,
  });
}

/** Whether the space bar means something of its own here: text is typed, or a control was reached by keys. */
function hasOwnSpace(target: HTMLElement): boolean {
  if (target.matches('input:not([type=range]), textarea')) return true;
  return target.matches('button, a, summary, select') && !cameByPointer;
}
