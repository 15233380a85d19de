import { packRules } from '../everyPack';
import type { HostKind } from '../kind';
import { soundRules } from '../soundRules';
import { DESCRIPTOR } from './rules';
import type { ModScene } from './scene';

/** A small game that plays other people’s sounds in the place of its own. */
export const modIsland: HostKind<ModScene> = {
  id: 'mod',
  version: 1,
  title: 'Mod island',
  about: 'A game on an island, that plays other people’s sounds in the place of its own.',
  briefId: 'game-mod',
  rules: {
    ...packRules,
    ...soundRules,
    root: 'everything at the root',
    descriptor: 'what the game reads first',
    edition: 'edition',
    icon: 'icon',
    calls: 'index of calls',
    'call-files': 'files of calls',
    pitch: 'pitch of calls',
    name: 'spelling of names',
    slot: 'places',
    unused: 'use',
  },
  isMeant: ({ files }) => files.some(({ path }) => path.split('/').at(-1) === DESCRIPTOR),
  take: async (pack, checking) => (await import('./take')).takeMod(pack, checking),
  changes(before, now) {
    const [old, fresh] = [before, now].map(
      ({ calls }) => new Map(calls.map((call) => [call.id, JSON.stringify(call)])),
    ) as [Map<string, string>, Map<string, string>];
    const added = [...fresh.keys()].filter((id) => !old.has(id));
    const gone = [...old.keys()].filter((id) => !fresh.has(id));
    const other = [...fresh].filter(([id, text]) => old.has(id) && old.get(id) !== text);
    return [
      ...said('New calls', added),
      ...said(
        'Other calls',
        other.map(([id]) => id),
      ),
      ...said('Calls that are gone', gone),
      ...(before.title === now.title ? [] : [`It is called “${now.title}” now.`]),
      ...(before.edition === now.edition ? [] : [`It is for edition ${now.edition} now.`]),
    ];
  },
};

/** So many ids are named. */
const MOST_NAMED = 5;

function said(what: string, ids: readonly string[]): string[] {
  if (ids.length === 0) return [];
  const more = ids.length > MOST_NAMED ? ` and ${ids.length - MOST_NAMED} more` : '';
  return [`${what}: ${ids.slice(0, MOST_NAMED).join(', ')}${more}.`];
}
