import { readFile } from 'node:fs/promises';
import { briefById } from '@/core/brief/catalogue';
import { BijouError } from '@/core/errors';
import type { StageChoices } from '@/core/host/filter/choices';
import type { Call, PathVariant } from '@/core/pack/calls/calls';
import { callsFromNames, type CallWay } from '@/core/pack/calls/fromNames';
import { ID_CHARACTERS } from '@/core/pack/calls/check';
import type { IndexReport } from '@/core/pack/calls/readIndex';
import { allowedCharacters } from '@/core/pack/characters';
import { folderInPack } from '@/core/pack/layout';
import { slottedSounds } from '@/core/pack/input';
import { namedSounds, usesCalls } from '@/core/pack/partCalls';
import { titleOf } from '@/core/pack/partFields';
import type { PackSettings } from '@/core/pack/settings';
import { slotsByName } from '@/core/pack/slots';
import { kindOf } from '@/core/pack/texts/layoutTexts';
import type { Changed, OutlinedText } from '@/wire';
import type { Context } from '../context';
import type { EditService, ValuesOfSound } from './edits';
import type { OutlineService } from './outlines';
import { placedFiles } from './storedParts';

/** A slot and what is to fill it; null for nothing. */
export interface SlotFilling {
  path: string;
  soundId: number | null;
}

/** What people decide about the packs of destinations: titles, fields, icons, slots and calls. */
export function layoutService(
  { db, store, briefs, planner }: Context,
  edits: EditService,
  outlines: OutlineService,
) {
  const briefOf = (projectId: number, briefId: string) => briefById(briefs(projectId), briefId);
  const filesOf = async (projectId: number, briefId: string) => {
    const brief = briefOf(projectId, briefId);
    await outlines.settle(projectId, [briefId]);
    return { brief, files: placedFiles(db, projectId, brief) };
  };

  /** Sets the title, or values of fields; what is null is as usual again. */
  function settle(
    projectId: number,
    briefId: string,
    { title, fields }: { title?: string | null; fields?: Record<string, string | number | null> },
  ): Changed {
    const brief = briefOf(projectId, briefId);
    const before = db.packSettings.of(projectId, briefId);
    const change: Partial<PackSettings> = {};
    if (title !== undefined) change.title = title ?? undefined;
    if (fields) {
      const known = new Set((brief.layout?.fields ?? []).map(({ id }) => id));
      const unknown = Object.keys(fields).find((id) => !known.has(id));
      if (unknown !== undefined) throw noField(unknown, brief.title);
      const all = Object.entries({ ...before.fields, ...fields });
      change.fields = Object.fromEntries(
        all.flatMap(([id, value]) => (value === null ? [] : [[id, value]])),
      );
    }
    const what = title === undefined ? 'the fields' : 'the title';
    return edits.settle(projectId, briefId, `Set ${what} of “${brief.title}”`, change);
  }

  /** Keeps an icon that was given, or has one drawn again. @throws not-legal, too-large, damaged-header */
  async function setIcon(
    projectId: number,
    briefId: string,
    bytes: Uint8Array | null,
  ): Promise<Changed> {
    const { title, layout } = briefOf(projectId, briefId);
    if (!layout?.icon) throw noIcon(title);
    if (!bytes) {
      return edits.settle(projectId, briefId, `Draw the icon of “${title}”`, { icon: undefined });
    }
    const { sizes } = layout.icon;
    const icon = await planner().ask({ kind: 'icon', given: bytes, title: '', sizes });
    return store.add(
      (async function* () {
        yield icon;
      })(),
      icon.length,
      (sha256) =>
        edits.settle(projectId, briefId, `Set the icon of “${title}”`, {
          icon: { sha256, bytes: icon.length },
        }),
    );
  }

  /** The icon as it would lie in the pack. @throws not-found */
  async function icon(projectId: number, briefId: string): Promise<Uint8Array> {
    const { title, layout } = briefOf(projectId, briefId);
    if (!layout?.icon) throw noIcon(title);
    const { project, parts } = outlines.sourceOf(projectId, [briefId]);
    const { settings } = parts[0]!;
    const given = settings.icon
      ? await readFile(store.path(settings.icon.sha256)).catch(() => null)
      : null;
    const { sizes } = layout.icon;
    const drawn = titleOf({ project, settings });
    return given ?? planner().ask({ kind: 'icon', given: null, title: drawn, sizes });
  }

  /** Fills slots, each with one sound; what filled them before goes out of them. */
  function fill(projectId: number, briefId: string, fillings: readonly SlotFilling[]): Changed {
    const brief = briefOf(projectId, briefId);
    const known = new Set((brief.layout?.slots ?? []).map(({ path }) => path));
    const meant = new Map(fillings.map(({ path, soundId }) => [path, soundId]));
    for (const path of meant.keys()) if (!known.has(path)) throw noSlot(path, brief.title);
    const sent = db.packs.assignments(projectId).filter((one) => one.briefId === briefId);
    for (const soundId of meant.values()) {
      if (soundId !== null && !sent.some((one) => one.soundId === soundId))
        throw notSent(brief.title);
    }
    const list = sent.flatMap(({ soundId }): ValuesOfSound[] => {
      const { sent: all = {} } = db.sounds.values(soundId, ['sent']);
      const { slots: own = [], ...choices } = all[briefId] ?? {};
      const kept = own.filter((path) => !meant.has(path) || meant.get(path) === soundId);
      const added = [...meant].flatMap(([path, id]) =>
        id === soundId && !kept.includes(path) ? [path] : [],
      );
      if (kept.length === own.length && added.length === 0) return [];
      const slots = [...kept, ...added];
      const next = slots.length > 0 ? { ...choices, slots } : choices;
      return [{ soundId, values: { sent: { ...all, [briefId]: next } } }];
    });
    const [only] = fillings;
    const what = fillings.length === 1 ? only!.path : 'slots';
    const verb = fillings.every(({ soundId }) => soundId === null) ? 'Empty' : 'Fill';
    return edits.change(projectId, () => `${verb} ${what} of “${brief.title}”`, list);
  }

  /** Which sounds would fill which empty slots by their names. */
  async function byName(projectId: number, briefId: string): Promise<SlotFilling[]> {
    const { brief, files } = await filesOf(projectId, briefId);
    return slotsByName(brief.layout?.slots ?? [], slottedSounds(files));
  }

  /** Sets the calls; null has them made of names again. */
  function setCalls(projectId: number, briefId: string, calls: Call[] | null): Changed {
    const brief = briefOf(projectId, briefId);
    if (!usesCalls(brief)) throw noCalls(brief.title);
    const title = `${calls ? 'Change' : 'Make anew'} the calls of “${brief.title}”`;
    return edits.settle(projectId, briefId, title, { calls: calls ?? undefined });
  }

  /** Keeps what was set on the filter stage; null has everything begin as usual. */
  function setStage(projectId: number, briefId: string, stage: StageChoices | null): Changed {
    const { title } = briefOf(projectId, briefId);
    const what = `Set what sounds of “${title}” do in the host`;
    return edits.settle(projectId, briefId, what, { stage: stage ?? undefined });
  }

  /** Calls as names and groups would make them, to be looked at first. */
  async function proposedCalls(projectId: number, briefId: string, way: CallWay): Promise<Call[]> {
    const { brief, files } = await filesOf(projectId, briefId);
    const { characters = ID_CHARACTERS } = brief.layout?.calls ?? {};
    return callsFromNames(namedSounds(files), way, allowedCharacters(characters));
  }

  /** The texts of a pack as they would be written now. */
  async function texts(projectId: number, briefId: string): Promise<OutlinedText[]> {
    const { layout } = briefOf(projectId, briefId);
    const { entries } = await outlines.plan(projectId, [briefId], 'texts');
    const folder = folderInPack({ id: briefId, layout }, true);
    const inFolder = (path: string) => (folder === '' ? path : path.slice(folder.length + 1));
    const written = new Map(
      entries.map(({ path, content }) => [inFolder(path), new TextDecoder().decode(content!)]),
    );
    return (layout?.texts ?? []).map((text) => ({
      path: text.path,
      is: kindOf(text).id,
      text: written.get(text.path) ?? '',
      template: text.template ?? null,
      manifest: text.manifest ?? null,
    }));
  }

  /** An index that was made elsewhere, held against the files that a pack would have. */
  async function lookedAt(projectId: number, briefId: string, text: string | Uint8Array) {
    const { brief, files } = await filesOf(projectId, briefId);
    const there = files.flatMap(({ paths }) => [...paths]);
    const slots = (brief.layout?.slots ?? []).map(({ path }) => path);
    const characters = brief.layout?.calls?.characters ?? ID_CHARACTERS;
    return planner().ask({ kind: 'index', text, there, slots, characters });
  }

  /** What is wrong with it, what would mend it, and which files it names. */
  async function doctor(projectId: number, briefId: string, text: string): Promise<IndexReport> {
    const { report } = await lookedAt(projectId, briefId, text);
    return JSON.parse(new TextDecoder().decode(report)) as IndexReport;
  }

  /** The same of the body of a request, as JSON; or its calls are taken over, where it asks for that. */
  async function sentIndex(
    projectId: number,
    briefId: string,
    body: Uint8Array,
  ): Promise<Uint8Array | Changed> {
    const { report, calls, isTakenOver } = await lookedAt(projectId, briefId, body);
    return isTakenOver ? takeCalls(projectId, briefId, calls) : report;
  }

  /** Takes over calls of an index that was made elsewhere: its files are found by their paths, then by their names. */
  async function takeOver(projectId: number, briefId: string, text: string): Promise<Changed> {
    const { calls } = await lookedAt(projectId, briefId, text);
    return takeCalls(projectId, briefId, calls);
  }

  async function takeCalls(
    projectId: number,
    briefId: string,
    index: readonly Call<PathVariant>[] | null,
  ): Promise<Changed> {
    if (!index) throw noIndex();
    const { files } = await filesOf(projectId, briefId);
    const byPath = new Map(
      files.flatMap(({ soundId, paths }) =>
        paths.flatMap((path) => [
          [path, soundId] as const,
          [path.split('/').at(-1)!, soundId] as const,
        ]),
      ),
    );
    const calls = index.map((call) => ({
      ...call,
      variants: call.variants.flatMap(({ path, odds }) => {
        const soundId = byPath.get(path) ?? byPath.get(path.split('/').at(-1)!);
        return soundId === undefined ? [] : [{ soundId, odds }];
      }),
    }));
    return setCalls(projectId, briefId, calls);
  }

  return {
    settle,
    setIcon,
    icon,
    fill,
    byName,
    setCalls,
    setStage,
    proposedCalls,
    texts,
    doctor,
    sentIndex,
    takeOver,
  };
}

function noField(id: string, title: string): BijouError {
  return new BijouError('not-found', `“${title}” asks for no “${id}”.`, 'See its layout.');
}

function noIcon(title: string): BijouError {
  return new BijouError('not-found', `“${title}” has no icon in its pack.`, 'See its layout.');
}

function noSlot(path: string, title: string): BijouError {
  return new BijouError('not-found', `“${title}” has no slot ${path}.`, 'See its layout.');
}

function noCalls(title: string): BijouError {
  return new BijouError('not-found', `“${title}” has no index of calls.`, 'See its layout.');
}

function noIndex(): BijouError {
  return new BijouError(
    'bad-setting',
    'The text is no index of calls as Bijou writes it.',
    'Only such an index can be taken over.',
  );
}

function notSent(title: string): BijouError {
  return new BijouError(
    'not-allowed',
    `That sound does not go to “${title}”.`,
    'Send it there first.',
  );
}
