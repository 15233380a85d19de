import { storedBrief } from '@/core/brief/catalogue';
import type { Choices } from '@/core/brief/choices';
import type { Brief } from '@/core/brief/schema';
import { groupBy } from '@/core/group';
import type { GivenName } from '@/core/pack/naming';
import type { Assignment, Sound } from '@/wire';
import type { Context } from '../context';
import type { OutputRow } from '../db/packs';
import type { KeyedNeed, NeedService } from './needs';
import { meetingNames } from './placing';

/** A sound that has been read, on its way to a destination. */
export interface Assigned {
  assignment: Assignment;
  sound: Sound;
}

/** The name that a file has, or is to have. */
type PlaceName = Pick<GivenName, 'name' | 'path' | 'paths' | 'meets'>;
/** Where the names are known that the files of some assignments have. */
export type Places = (assignment: Assignment, fileId: string) => PlaceName | undefined;

/** Looking closely at sounds on their way to destinations: what each needs, and the newest of each of its files. */
export function lookingService(
  { db, briefs }: Pick<Context, 'db' | 'briefs'>,
  { needOfAssigned, verdictOf }: NeedService,
) {
  /** Assignments with their sounds, of which those are left out that have not been read. */
  function withSounds(assignments: readonly Assignment[], projectId: number): Assigned[] {
    // Asked for once each, however many destinations it goes to.
    const sounds = new Map<number, Sound | undefined>();
    return assignments.flatMap((assignment) => {
      const { soundId } = assignment;
      if (!sounds.has(soundId)) sounds.set(soundId, db.sounds.byId(soundId));
      const sound = sounds.get(soundId);
      const isThere = sound?.facts && sound.projectId === projectId && sound.removedAt === null;
      return isThere ? [{ assignment, sound }] : [];
    });
  }

  /** Each assignment with what it needs and the newest encoding of each of its files. */
  function* looked(entries: readonly Assigned[], places: Places) {
    const ids = entries.map(({ assignment }) => assignment.id);
    const rows = groupBy(db.packs.latestOutputs(ids), (row) => row.assignmentId);
    for (const entry of entries) {
      const { assignment, sound } = entry;
      const needed = needFor(entry, places);
      const made = (rows.get(assignment.id) ?? []).map((row) =>
        madeOf(row, needed.brief, needed.need, assignment.choices),
      );
      yield { assignment, sound, ...needed, made };
    }
  }

  /** What an assignment needs, with what stands against it where names may not meet. */
  function needFor({ assignment, sound }: Assigned, places: Places) {
    const brief = storedBrief(briefs(sound.projectId), assignment.briefId);
    const need = needOfAssigned(sound, assignment);
    const named = brief.files.map(({ id }) => places(assignment, id));
    return { brief, need: { ...need, obstacle: need.obstacle ?? meetingNames(brief, named) } };
  }

  function madeOf(row: OutputRow, brief: Brief, need: KeyedNeed, choices: Choices) {
    const encoding = db.encodings.byId(row.encodingId)!;
    const tags = need.files.find(({ file }) => file.id === row.fileId)?.tags;
    return {
      row,
      encoding,
      upToDate: encoding.key === need.keys.get(row.fileId),
      verdict: verdictOf(encoding, brief, row.fileId, choices, tags),
    };
  }

  return { withSounds, looked, needFor };
}

export type LookingService = ReturnType<typeof lookingService>;
