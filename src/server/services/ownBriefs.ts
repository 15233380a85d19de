import type { Brief } from '@/core/brief/schema';
import { completeBrief } from '@/core/brief/complete';
import { BijouError } from '@/core/errors';
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
    if (briefs(projectId).some((brief) => brief.title === title)) {
      throw new BijouError(
        'already-there',
        `There is a brief “${title}” already.`,
        'Give it another name.',
      );
    }
    const text = briefOfWish(
      freeId(projectId, title),
      title,
      wish,
      oneOffs.planned(projectId, soundIds, wish),
    );
    const brief = completeBrief(text);
    db.ownBriefs.add(projectId, text);
    changed(projectId);
    return brief;
  }

  function freeId(projectId: number, title: string): string {
    const word = title
      .toLowerCase()
      .normalize('NFKD')
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '');
    const taken = new Set(briefs(projectId).map(({ id }) => id));
    const base = `${OWN}${word || 'brief'}`;
    for (let n = 1; ; n++) {
      const id = n === 1 ? base : `${base}-${n}`;
      if (!taken.has(id)) return id;
    }
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
    if (!db.ownBriefs.forget(projectId, id)) {
      throw new BijouError('not-found', 'There is no such brief of your own.', 'Reload the page.');
    }
    changed(projectId);
  }

  return { keep, forget };
}
