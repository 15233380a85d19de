'use client';

import { Search } from 'lucide-react';
import { usePathname, useRouter } from 'next/navigation';
import { useState } from 'react';
import { Dialog } from '../shared/Dialog';
import { useKeys } from '../shared/keys';
import { useHistory } from '../shared/history';
import { useProject } from '../shared/project';
import { setLoop, setMatched, switchTo, toggle, useListening } from '../strip/listening';
import { shortcutsFor, useHelp } from './help';
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
      <Sheet />
    </Dialog>
  );
}

/** All keys by station, the present one first, with a search over them. */
function Sheet() {
  const path = usePathname();
  const [search, setSearch] = useState('');
  const here = stations.find((station) => path.includes(`/${station.path}`))?.path ?? null;
  const groups = shortcutsFor(here, search);
  return (
    <>
      <label className="input input-sm mt-3 w-full">
        <Search size={14} aria-hidden className="text-soft" />
        <span className="sr-only">Search the shortcuts</span>
        <input
          type="search"
          value={search}
          placeholder="What do you want to do, or which key is it?"
          onChange={({ target }) => setSearch(target.value)}
        />
      </label>
      <div className="mt-1 h-[min(26rem,55dvh)] overflow-y-auto pr-2" tabIndex={0}>
        {groups.length === 0 && <p className="text-soft mt-6 text-center">No key does that yet.</p>}
        <div className="mt-3 columns-1 gap-8 md:columns-2">
          {groups.map(({ where, station, keys }) => (
            <section key={where} className="mb-4 break-inside-avoid">
              <h3
                className={`text-xs font-semibold ${station === here ? 'text-primary' : 'text-soft'}`}
              >
                {where}
              </h3>
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
      </div>
      <div className="mt-4 text-right">
        <button className="btn btn-paper btn-sm" onClick={() => useHelp.setState({ open: false })}>
          Close
        </button>
      </div>
    </>
  );
}
