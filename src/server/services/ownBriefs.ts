import { briefById } from '@/core/brief/catalogue';
import { completeBrief } from '@/core/brief/complete';
import { briefTextOf, ownBrief } from '@/core/brief/edit';
import { readBriefFile } from '@/core/brief/exchange';
import { briefOfFile } from '@/core/brief/fromFile';
import type { Brief, BriefText } from '@/core/brief/schema';
import { BijouError } from '@/core/errors';
import type { ListedFacts } from '@/core/measure/probe';
import { briefOfWish } from '@/core/oneOff/asBrief';
import type { OneOffWish } from '@/core/oneOff/plan';
import { soundName } from '@/core/pack/names';
import { plural } from '@/core/words';
import type { Context } from '../context';
import { projectById } from './lookUp';
import type { OneOffService } from './oneOffs';

/** Tells people's own briefs from those that come with Bijou. */
const OWN = 'own-';

/** Briefs that people keep. */
export function ownBriefService({ db, briefs, changed }: Context, oneOffs: OneOffService) {
  /** Keeps what a conversion was asked for as a brief of the project. @throws already-there, not-legal */
  function keep(
    projectId: number,
    typed: string,
    soundIds: readonly number[],
    wish: OneOffWish,
  ): Brief {
    projectById(db, projectId);
    const title = soundName(typed);
    refuseTaken(projectId, title);
    const made = oneOffs.planned(projectId, soundIds, wish);
    return added(projectId, briefOfWish(freeId(projectId, title), title, wish, made));
  }

  /** Copies a brief, so that the copy can be edited. @throws not-found */
  function copy(projectId: number, id: string): Brief {
    const from = briefById(briefs(projectId), id);
    const title = freeTitle(projectId, from.title);
    return added(projectId, ownBrief(briefTextOf(from), freeId(projectId, title), title));
  }

  /** Takes a brief in from its file. @throws bad-setting with the path of what is wrong in it */
  function bringIn(projectId: number, file: string): { brief: Brief; unknown: string[] } {
    const { text, unknown } = readBriefFile(file);
    const title = freeTitle(projectId, text.title);
    const brief = added(projectId, { ...text, id: freeId(projectId, title), title });
    return { brief, unknown };
  }

  /** Begins a brief from a file that works: what it is becomes what is demanded. */
  function fromFile(projectId: number, name: string, facts: ListedFacts): Brief {
    const title = freeTitle(projectId, `Like “${soundName(name)}”`);
    return added(projectId, briefOfFile(freeId(projectId, title), title, facts, name));
  }

  /** Puts what somebody wrote in the place of a brief of their own: its next version. @throws not-found, bad-setting */
  function edit(projectId: number, id: string, file: string): Brief {
    const before = ownById(projectId, id);
    const { text } = readBriefFile(file);
    const title = soundName(text.title);
    if (title !== before.title) refuseTaken(projectId, title);
    const next = { ...text, id, title, version: before.version + 1 };
    const brief = completeBrief(next);
    db.ownBriefs.replace(projectId, next);
    changed(projectId);
    return brief;
  }

  /** Forgets a brief to which no sound goes. @throws not-found, not-allowed */
  function forget(projectId: number, id: string): void {
    const sent = db.packs.assignments(projectId).filter(({ briefId }) => briefId === id).length;
    if (sent > 0) {
      throw new BijouError(
        'not-allowed',
        `${plural(sent, 'sound')} ${sent === 1 ? 'goes' : 'go'} there.`,
        'Take them off it first.',
      );
    }
    ownById(projectId, id);
    db.ownBriefs.forget(projectId, id);
    changed(projectId);
  }

  function added(projectId: number, text: BriefText): Brief {
    projectById(db, projectId);
    const brief = completeBrief(text);
    db.ownBriefs.add(projectId, text);
    changed(projectId);
    return brief;
  }

  function ownById(projectId: number, id: string): Brief {
    const brief = db.ownBriefs.of(projectId).find((one) => one.id === id);
    if (brief) return brief;
    throw new BijouError('not-found', 'There is no such brief of your own.', 'Reload the page.');
  }

  function refuseTaken(projectId: number, title: string): void {
    if (!briefs(projectId).some((brief) => brief.title === title)) return;
    throw new BijouError(
      'already-there',
      `There is a brief “${title}” already.`,
      'Give it another name.',
    );
  }

  function freeTitle(projectId: number, wanted: string): string {
    const taken = new Set(briefs(projectId).map(({ title }) => title));
    const base = soundName(wanted);
    for (let n = 1; ; n++) {
      const title = n === 1 ? base : `${base}, ${n}`;
      if (!taken.has(title)) return title;
    }
  }

  function freeId(projectId: number, title: string): string {
    const word = title
      .toLowerCase()
      .normalize('NFKD')
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '')
      .slice(0, MOST_ID_LETTERS);
    const taken = new Set(briefs(projectId).map(({ id }) => id));
    const base = `${OWN}${word || 'brief'}`;
    for (let n = 1; ; n++) {
      const id = n === 1 ? base : `${base}-${n}`;
      if (!taken.has(id)) return id;
    }
  }

  return { keep, copy, bringIn, fromFile, edit, forget };
}

const MOST_ID_LETTERS = 60;

export type OwnBriefService = ReturnType<typeof ownBriefService>;
