import { briefById, storedBrief } from '@/core/brief/catalogue';
import { changedChoices, type ChangedChoices, type Choices } from '@/core/brief/choices';
import { BijouError } from '@/core/errors';
import { groupBy } from '@/core/group';
import type { Changed, Sound } from '@/wire';
import type { Context } from '../context';
import type { Sent } from '../db/packs';
import type { EditService, ValuesOfSound } from './edits';
import type { EncodingService } from './encodings';

/** Sounds and the destinations that something is done about: each with each of them, or single pairs. */
export type Sending =
  | { sounds: readonly number[]; briefs: readonly string[] }
  | { pairs: readonly { sound: number; brief: string }[] };

/** The destinations of each sound that is meant. */
function meant(sending: Sending): Map<number, string[]> {
  if ('sounds' in sending) return new Map(sending.sounds.map((id) => [id, [...sending.briefs]]));
  const groups = groupBy(sending.pairs, ({ sound }) => sound);
  return new Map([...groups].map(([id, pairs]) => [id, pairs.map(({ brief }) => brief)]));
}

/** Sending sounds to destinations, with what is chosen for them there: changes like any other. */
export function sendingService(
  { db, briefs: catalogue }: Context,
  edits: EditService,
  encodings: EncodingService,
) {
  /** Sends sounds to destinations. Those that go there already get what is chosen, and keep the rest. */
  function send(projectId: number, sending: Sending, choices: ChangedChoices = {}): Changed {
    for (const id of idsIn(sending)) briefById(catalogue(projectId), id);
    return sent(projectId, sending, (before = {}) => changedChoices(before, choices));
  }

  /** Sends sounds to destinations no more. */
  function release(projectId: number, sending: Sending): Changed {
    const from = titles(projectId, idsIn(sending));
    return change(
      projectId,
      sending,
      (what) => `Do not send ${what} to ${from}`,
      (sent, brief) => Object.fromEntries(Object.entries(sent).filter(([id]) => id !== brief)),
    );
  }

  /** Sends one sound to one destination, with just these choices. */
  function assign({ id, projectId }: Sound, briefId: string, choices: ChangedChoices): Changed {
    briefById(catalogue(projectId), briefId);
    return sent(projectId, { sounds: [id], briefs: [briefId] }, () => changedChoices({}, choices));
  }

  function sent(
    projectId: number,
    sending: Sending,
    choose: (before: Choices | undefined) => Choices,
  ): Changed {
    const to = titles(projectId, idsIn(sending));
    let isNew = false;
    return change(
      projectId,
      sending,
      (what) => (isNew ? `Send ${what} to ${to}` : `Choose for ${what} at ${to}`),
      (all, brief) => {
        isNew ||= !all[brief];
        return { ...all, [brief]: choose(all[brief]) };
      },
    );
  }

  function change(
    projectId: number,
    sending: Sending,
    title: (what: string) => string,
    next: (sent: Sent, briefId: string) => Sent,
  ): Changed {
    return db.transaction(() => {
      const list = [...meant(sending)].map(([soundId, briefs]): ValuesOfSound => {
        const sound = db.sounds.byId(soundId);
        if (sound?.projectId !== projectId || sound.removedAt !== null) throw missing();
        const { sent } = db.sounds.values(soundId, ['sent']);
        return { soundId, values: { sent: sorted(briefs.reduce(next, sent)) } };
      });
      // What others do to the sounds meanwhile is not touched by it.
      const made = edits.change(projectId, title, list);
      encodings.sweep();
      return made;
    });
  }

  function titles(projectId: number, ids: readonly string[]): string {
    if (ids.length > MOST_NAMED) return `${ids.length} destinations`;
    return ids.map((id) => storedBrief(catalogue(projectId), id).title).join(' and ');
  }

  return {
    send,
    release,
    assign,
    unassign: ({ id, projectId }: Sound, briefId: string) =>
      release(projectId, { sounds: [id], briefs: [briefId] }),
  };
}

/** More are counted. */
const MOST_NAMED = 3;

function idsIn(sending: Sending): string[] {
  return [...new Set([...meant(sending).values()].flat())];
}

export type SendingService = ReturnType<typeof sendingService>;

/** In one order, so that the same is the same. What is undefined was not chosen. */
function sorted(sent: Sent): Sent {
  const entries = Object.entries(sent).sort(([a], [b]) => (a < b ? -1 : 1));
  return Object.fromEntries(
    entries.map(([brief, choices]) => [brief, JSON.parse(JSON.stringify(choices)) as Choices]),
  );
}

function missing(): BijouError {
  return new BijouError('not-found', 'That sound is not there any more.', 'Reload the page.');
}
