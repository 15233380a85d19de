import type { Check } from '@/core/host/checks';
import type { HostKind } from '@/core/host/kind';
import type { PackedFile } from '@/wire';
import type { PackPart } from './packs';

/** What of the project may have caused that a host refuses something. */
type Cause = 'sound' | 'layout' | 'calls' | 'brief';

/** By the rules of all hosts: what has to be changed, by whoever mends it. */
const causes: Readonly<Record<string, Cause>> = {
  container: 'sound',
  codec: 'sound',
  ending: 'sound',
  channels: 'sound',
  rate: 'sound',
  length: 'sound',
  undamaged: 'sound',
  name: 'sound',
  path: 'sound',
  unused: 'calls',
  slot: 'layout',
  icon: 'layout',
  edition: 'layout',
  descriptor: 'brief',
  encoding: 'brief',
  root: 'brief',
  calls: 'calls',
  'call-files': 'calls',
  pitch: 'calls',
  host: 'brief',
  sounds: 'layout',
};

/** Where one goes to change what causes it: a path inside of the project, and what it leads to. */
export interface Way {
  path: string;
  text: string;
}

/** The ways to what causes a refusal. */
export function waysTo(
  { rule, file }: Check,
  { brief }: PackPart,
  soundAt: (path: string) => number | null,
): Way[] {
  const cause = causes[rule];
  const soundId = soundAt(file);
  const toBrief = { path: `pack/briefs/${brief.id}`, text: `To the brief “${brief.title}”` };
  const layout = { path: `pack/layout/${brief.id}`, text: 'To the layout' };
  const calls = { path: `pack/layout/${brief.id}/calls`, text: 'To the calls' };
  const sound =
    soundId === null
      ? []
      : [
          {
            path: `pack?cell=${soundId}.${encodeURIComponent(brief.id)}`,
            text: 'To its cell',
          },
          { path: `shape/${soundId}`, text: 'To the sound' },
        ];
  switch (cause) {
    case 'sound':
      return [...sound, toBrief];
    case 'calls':
      return [calls, ...sound];
    case 'layout':
      return [layout];
    case 'brief':
      return [toBrief, layout];
    default:
      return sound;
  }
}

/** Which sound of the project a file of a pack is; null for none. */
export function soundOf(
  list: readonly PackedFile[] | undefined,
  { folder }: PackPart,
  path: string,
): number | null {
  const whole = folder === '' ? path : `${folder}/${path}`;
  return list?.find((one) => one.path === whole)?.soundId ?? null;
}

/** What can be mended with one press, and what is then said of it. */
export interface Mend {
  text: string;
  /** What is asked of the server, in its order. */
  steps: readonly { path: string; method: string; data?: unknown }[];
  /** The destination whose pack is made then. */
  briefId: string;
}

const SOUND_RULES = new Set(['container', 'codec', 'ending', 'channels', 'rate', 'name']);

/** What would mend it, where that can be told; null where people have to decide. */
export function mendFor(
  host: HostKind,
  { rule, file }: Check,
  { brief }: PackPart,
  projectId: number,
  known: { fillings: readonly { path: string; soundId: number | null }[]; soundIds: number[] },
): Mend | null {
  const layouts = `projects/${projectId}/layouts/${brief.id}`;
  const own = (text: string, ...steps: Mend['steps']): Mend => ({ text, steps, briefId: brief.id });
  if (SOUND_RULES.has(rule) && brief.id !== host.briefId && known.soundIds.length > 0) {
    return {
      text: 'Send these sounds to the brief that is made for this host',
      steps: [
        {
          path: `projects/${projectId}/assignments`,
          method: 'POST',
          data: { sounds: known.soundIds, briefs: [host.briefId] },
        },
      ],
      briefId: host.briefId,
    };
  }
  switch (rule) {
    case 'slot': {
      const fill = known.fillings.filter(({ path }) => path === file);
      if (fill.length === 0) return null;
      return own('Fill it by name', { path: `${layouts}/slots`, method: 'POST', data: { fill } });
    }
    case 'edition':
      return own('Set the edition', {
        path: layouts,
        method: 'PATCH',
        data: { fields: { edition: 3 } },
      });
    case 'icon':
      return own('Have an icon drawn', { path: `${layouts}/icon`, method: 'DELETE' });
    case 'calls':
    case 'call-files':
      return own('Make the calls of names', {
        path: `${layouts}/calls`,
        method: 'PUT',
        data: { calls: null },
      });
    case 'undamaged':
      return own('Build it again');
    default:
      return null;
  }
}
