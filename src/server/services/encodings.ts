import { createHash } from 'node:crypto';
import { existsSync } from 'node:fs';
import { planText, type EncodingPlan } from '@/core/encoding';
import type { Context } from '../context';
import type { Encoding, Wanting } from '../db/encodings';
import type { Rank } from '../jobs/ranks';
import type { DeletionService } from './deleting';

/** The key of what a plan comes to. */
export function encodingKey(plan: EncodingPlan): string {
  return createHash('sha256').update(planText(plan)).digest('hex');
}

/** Files that are made of sources, once for whoever wants them. */
export function encodingService({ db, store }: Context, { release }: DeletionService) {
  /** Whether its file is there: the same plan is not encoded twice. */
  function isThere({ sha256 }: Encoding): boolean {
    return sha256 !== null && existsSync(store.path(sha256));
  }

  /** The encoding of a plan: there already, on its way, or queued now, at that place at least. Answers its id. */
  function wanted(projectId: number, plan: EncodingPlan, rank: Rank): number {
    const key = encodingKey(plan);
    const known = db.encodings.byKey(key);
    const isOpen = known?.state === 'queued' || known?.state === 'running';
    if (known && isOpen) db.jobs.hasten('encode', known.id, rank);
    if (known && (isOpen || isThere(known))) return known.id;
    const id = db.encodings.queue(key, plan);
    db.jobs.add(projectId, 'encode', id, rank);
    return id;
  }

  /** Whether anything else wants it than what is being stopped: that goes on being made, whoever ordered it. */
  function isWantedElse(id: number, kind: Wanting, owner: number): boolean {
    return db.encodings.owners(id).some((one) => one.kind !== kind || one.owner !== owner);
  }

  /** Forgets what nobody wants any more, and lets its files go. Answers these. */
  function sweep(): string[] {
    const dropped = db.encodings.dropUnwanted();
    for (const { id } of dropped) db.jobs.drop('encode', id);
    const files = dropped.flatMap(({ sha256 }) => sha256 ?? []);
    release(...files);
    return files;
  }

  return { wanted, isThere, isWantedElse, sweep };
}

export type EncodingService = ReturnType<typeof encodingService>;
