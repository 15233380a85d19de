import { createHash } from 'node:crypto';
import { BijouError, errorFacts, type ErrorFacts } from '@/core/errors';
import {
  MOST_PARTS,
  partFacts,
  planJoin,
  sheetOf,
  type Join,
  type PartFacts,
  type SheetLine,
} from '@/core/join/plan';
import { pieceNames } from '@/core/loop/names';
import { piecesOf } from '@/core/loop/parts';
import { freeSoundName, soundName } from '@/core/pack/names';
import { marksAfter, recipeKey, shapeAfter } from '@/core/recipe/recipe';
import { spanThrough, traceRecipe } from '@/core/recipe/trace';
import { emptyRecipe } from '@/core/recipe/types';
import type { Sound } from '@/wire';
import type { Context } from '../context';
import type { JoinResult } from '../work/tasks';
import { refuseCircle } from './circles';
import type { DeletionService } from './deleting';
import type { EditService } from './edits';
import { soundById } from './lookUp';
import { notRead, sourceShape } from './sounds';
import { plural } from '@/core/words';

/** A WAV file of floats cannot be longer. */
const MOST_BYTES = 3.5e9;

/** Sounds that are joined of others, and follow when these change. */
export function joinService(context: Context, edits: EditService, { release }: DeletionService) {
  const { db, changed } = context;
  // What could not be joined is not tried again and again; by sound.
  const givenUp = new Map<number, string>();

  const byId = (id: number) => soundById(db, id);

  /** The parts as they are now. @throws not-allowed that names the part */
  function partsOf(projectId: number, { parts }: Join): Sound[] {
    return parts.map(({ soundId }) => {
      const part = db.sounds.byId(soundId);
      if (part?.projectId !== projectId) throw lost('A part');
      if (part.removedAt !== null) throw lost(`“${part.name}”`);
      return part;
    });
  }

  /** Tries whether it can be joined. `self` is the sound that it would become. */
  function check(projectId: number, join: Join, self: number | null): void {
    if (join.parts.length > MOST_PARTS) throw tooMany();
    const parts = partsOf(projectId, join);
    if (self !== null) {
      refuseCircle(
        db,
        self,
        parts.map(({ id }) => id),
      );
    }
    const { shape } = planJoin(join, factsOf(join, parts));
    if (shape.frames * shape.channelCount * 4 > MOST_BYTES) throw tooLong();
  }

  /** A new sound of others. It can be heard when it has been joined. */
  function create(projectId: number, name: string, join: Join): Sound {
    const title = () => `Join ${plural(join.parts.length, 'sound')}`;
    return createAll(projectId, title, [{ name, join, group: '' }])[0]!;
  }

  /** Several new sounds in one change. */
  function createAll(
    projectId: number,
    title: () => string,
    wanted: readonly { name: string; join: Join; group: string }[],
  ): Sound[] {
    for (const { join } of wanted) check(projectId, join, null);
    const ids = db.transaction(() => {
      const added = wanted.map(({ name, join, group }) => {
        const key = keyOf(join, partsOf(projectId, join));
        // Until it is joined for the first time its source is only a promise.
        db.sources.add(key, 0, null);
        const free = freeSoundName(soundName(name), db.sounds.names(projectId, group));
        const made = db.sounds.add({
          projectId,
          name: free,
          fileName: `${free}.wav`,
          sourceSha256: key,
          recipe: emptyRecipe,
          state: 'reading',
          group,
          folder: '',
          replaces: null,
        });
        db.sounds.setValues(made, { join });
        return made;
      });
      // Only now: a sound that is out of sight leaves its name to others.
      for (const id of added) db.sounds.setValues(id, { removedAt: new Date().toISOString() });
      return added;
    });
    const appear = ids.map((soundId) => ({ soundId, values: { removedAt: null } }));
    edits.change(projectId, title, appear);
    return ids.map(byId);
  }

  /** The pieces of a sound's loop as sounds that follow it; `pattern` names them, with {name} and {part}. */
  function createPieces(soundId: number, pattern: string): Sound[] {
    const sound = byId(soundId);
    const { facts, projectId, group } = sound;
    if (!facts) throw notRead(sound.name);
    const names = pieceNames(pattern, { ...sound, facts });
    const pieces = piecesOf(marksAfter(sound.recipe, sourceShape(sound), facts));
    const wanted = pieces.map((piece) => ({
      name: names(piece),
      group,
      join: {
        parts: [{ soundId, gapSeconds: 0, piece }],
        overlap: 'mix' as const,
        rateHz: null,
        channelCount: null,
      },
    }));
    return createAll(projectId, () => `Take the loop of “${sound.name}” apart`, wanted);
  }

  /** Changes the parts of a joined sound. */
  function setJoin(id: number, join: Join, revision?: number): Sound {
    const sound = byId(id);
    if (!sound.join) throw notJoined(sound.name);
    check(sound.projectId, join, id);
    const values = [{ soundId: id, values: { join } }];
    edits.change(sound.projectId, 'Change the parts of', values, revision);
    return byId(id);
  }

  /** Finds joined sounds whose parts are other than they were, and has them joined anew. */
  function follow(projectId: number): void {
    // A join of joins waits for them: so again, until nothing changes any more. More often than there are
    // joins cannot be needed.
    for (let left = db.sounds.joins(projectId).length; left > 0; left--) {
      const isOther = db.sounds.joins(projectId).map((sound) => followOne(sound));
      if (!isOther.includes(true)) break;
    }
    context.pump();
  }

  /** Answers whether the state of the sound is other than before. */
  function followOne({ id, projectId, join, joined, state, error }: Sound): boolean {
    const become = (next: Sound['state'], problem: ErrorFacts | null = null) => {
      if (state === next && error?.message === problem?.message) return false;
      db.sounds.setState(id, next, problem);
      return true;
    };
    if (!join || db.jobs.isOpen('join', id)) return false;
    try {
      const parts = partsOf(projectId, join);
      if (parts.some((part) => part.state === 'reading')) return become('reading');
      const key = keyOf(join, parts);
      if (givenUp.get(id) === key) return false;
      if (joined?.key === key) return become('ready');
      planJoin(join, factsOf(join, parts));
      db.jobs.add(projectId, 'join', id);
      return become('reading');
    } catch (problem) {
      return become(joined ? 'ready' : 'reading', errorFacts(problem));
    }
  }

  /** Where each part lies in the sound as it is delivered. */
  function sheet(id: number): {
    name: string;
    rateHz: number;
    frames: number;
    sounds: SheetLine[];
  } {
    const sound = byId(id);
    if (!sound.joined) throw notJoined(sound.name);
    const before = sourceShape(sound);
    const after = shapeAfter(sound.recipe, before);
    const trace = traceRecipe(sound.recipe, before);
    const span = (part: { startFrame: number; endFrame: number }) =>
      spanThrough(trace, part, after.frames);
    const sounds = sheetOf(sound.joined.placed, span, after.rateHz);
    return { name: sound.name, rateHz: after.rateHz, frames: after.frames, sounds };
  }

  /** What a sound is to be joined of now; null for one that is not joined any more. */
  function wanted(id: number) {
    const sound = db.sounds.byId(id);
    if (!sound?.join) return null;
    const parts = partsOf(sound.projectId, sound.join);
    return {
      join: sound.join,
      key: keyOf(sound.join, parts),
      hashes: parts.map(({ sourceSha256 }) => sourceSha256),
      facts: factsOf(sound.join, parts),
    };
  }

  /** The key of what a sound is to be joined to now; null where it is not, or cannot be. */
  function keyNow(id: number): string | null {
    try {
      return wanted(id)?.key ?? null;
    } catch {
      // A part is gone, or is read no more: `follow` says so.
      return null;
    }
  }

  /** Writes down what a sound was joined to. `key` tells of which parts. */
  function finish(id: number, key: string, made: JoinResult): void {
    const { sha256, bytes, facts, warnings, thumbnail } = made;
    const before = byId(id).sourceSha256;
    const placed = made.placed.map(({ name, startFrame, frames }) => ({
      name,
      startFrame,
      frames,
    }));
    db.sources.add(sha256, bytes, null);
    db.sources.setFacts(sha256, facts, warnings, thumbnail);
    db.sounds.setJoined(id, sha256, { key, placed });
    db.sounds.setState(id, 'ready');
    // What it was joined to before can be made again, and nobody brought it in.
    if (before !== sha256) release(before);
  }

  /** Writes down why a sound could not be joined, and does not try again until something is other. */
  function giveUp(id: number, error: ErrorFacts): void {
    const sound = db.sounds.byId(id);
    const key = keyNow(id);
    if (!sound || key === null) return;
    givenUp.set(id, key);
    db.sounds.setState(id, sound.joined ? 'ready' : 'reading', error);
  }

  /** Joins again what was given up. */
  function again(id: number): void {
    const { projectId } = byId(id);
    givenUp.delete(id);
    changed(projectId);
  }

  return {
    create,
    createPieces,
    setJoin,
    follow,
    sheet,
    again,
    wanted,
    keyNow,
    finish,
    giveUp,
    /** What went wrong the last time counts no more. */
    tryAgain: (id: number) => void givenUp.delete(id),
  };
}

export type JoinService = ReturnType<typeof joinService>;

/** Parts as they are joined, each a sound or a piece of one. @throws not-allowed */
function factsOf({ parts }: Join, sounds: readonly Sound[]): PartFacts[] {
  return sounds.map((sound, i) => {
    const { facts } = sound;
    if (!facts) throw notRead(sound.name);
    return partFacts({ ...sound, facts }, parts[i]!);
  });
}

/** Everything that decides what comes of a join. */
function keyOf({ parts, ...how }: Join, sounds: readonly Sound[]): string {
  const facts = factsOf({ parts, ...how }, sounds);
  const of = sounds.map(({ sourceSha256 }, i) => [
    sourceSha256,
    recipeKey(facts[i]!.recipe),
    facts[i]!.name,
    parts[i]?.gapSeconds,
  ]);
  return createHash('sha256')
    .update(JSON.stringify([how, of]))
    .digest('hex');
}

function lost(what: string): BijouError {
  return new BijouError(
    'not-allowed',
    `${what} of the join is not in the project any more.`,
    'Bring it back, or take it out of the join.',
  );
}

function notJoined(name: string): BijouError {
  return new BijouError(
    'not-allowed',
    `“${name}” is not joined of other sounds.`,
    'Choose a sound that is, or join some first.',
  );
}

function tooMany(): BijouError {
  return new BijouError(
    'too-large',
    `A join has at most ${MOST_PARTS} parts.`,
    'Join some of them first, then what came of that.',
  );
}

function tooLong(): BijouError {
  return new BijouError(
    'too-large',
    'Joined, these sounds would be longer than a WAV file can hold.',
    'Join fewer of them, or choose a lower rate or mono.',
  );
}
