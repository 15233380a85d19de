'use client';

import { useRouter } from 'next/navigation';
import { Dialog } from '../shared/Dialog';
import { useKeys } from '../shared/keys';
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
  const next = () => {
    const { versions, current } = useListening.getState();
    const at = versions.findIndex((version) => version.key === current);
    const version = versions[(at + 1) % versions.length];
    if (version) switchTo(version.key);
  };
  useKeys({
    ...Object.fromEntries(
      stations.map(({ path }, i) => [i + 1, () => router.push(`/p/${project.id}/${path}`)]),
    ),
    space: toggle,
    l: () => setLoop(!useListening.getState().loop),
    m: () => setMatched(!useListening.getState().isMatched),
    v: next,
    '?': () => useHelp.setState({ open: true }),
    'ctrl+z': back,
    'ctrl+y': forward,
    'ctrl+shift+z': forward,
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
      <div className="mt-5 text-right">
        <button className="btn btn-paper btn-sm" onClick={() => useHelp.setState({ open: false })}>
          Close
        </button>
      </div>
    </Dialog>
  );
}
