import { createReadStream, existsSync } from 'node:fs';
import { briefById, builtinBriefs, storedBrief } from '@/core/brief';
import type { Choices } from '@/core/brief/plan';
import type { Brief } from '@/core/brief/schema';
import { BijouError } from '@/core/errors';
import { writers } from '@/core/formats';
import { groupBy } from '@/core/group';
import { freeName, safeFileName } from '@/core/pack/names';
import type { Assignment, Output, PackLine, Sound } from '@/wire';
import type { Context } from '../context';
import type { DeletionService } from './deleting';
import { packLine, plannedFiles } from './planning';

/** Sending sounds to destinations, building what they take, and handing it out. */
export function packService(context: Context, { release }: DeletionService) {
  const { db, store, changed } = context;

  function assign(sound: Sound, briefId: string, choices: Choices): void {
    briefById(briefId);
    db.packs.assign(sound.id, briefId, choices);
    changed(sound.projectId);
  }

  function unassign(sound: Sound, briefId: string): void {
    db.transaction(() => {
      db.packs.unassign(sound.id, briefId);
      release(...db.packs.sweep());
      changed(sound.projectId);
    });
  }

  /** What goes where: of all sounds of a project, or of some. */
  function lines(projectId: number, soundIds?: ReadonlySet<number>): PackLine[] {
    const assignments = db.packs
      .assignments(projectId)
      .filter(({ soundId }) => soundIds?.has(soundId) ?? true);
    if (assignments.length === 0) return [];
    const outputs = groupBy(
      db.packs.latestOutputs(assignments.map(({ id }) => id)),
      (row) => row.assignmentId,
    );
    return assignments.flatMap((assignment) => {
      const sound = db.sounds.byId(assignment.soundId);
      return sound?.facts ? [packLine(sound, assignment, outputs.get(assignment.id) ?? [])] : [];
    });
  }

  /** Builds every assignment of a project that can be built, or only some. Answers the build's id. */
  function build(projectId: number, assignmentIds?: readonly number[]): number {
    const chosen = lines(projectId).filter(
      ({ assignment }) => !assignmentIds || assignmentIds.includes(assignment.id),
    );
    const ready = chosen.filter((entry) => entry.obstacle === null);
    if (ready.length === 0) {
      throw new BijouError(
        'not-allowed',
        chosen.length === 0
          ? 'Nothing is assigned to a destination yet.'
          : 'Nothing can be built yet.',
        chosen[0]?.obstacle?.message ?? 'Choose a destination for a sound first.',
      );
    }
    const buildId = db.transaction(() => {
      const id = db.packs.addBuild(projectId);
      const taken = new Map<string, Set<string>>();
      for (const { assignment } of ready) {
        const sound = db.sounds.byId(assignment.soundId);
        if (sound) queueFiles(id, sound, assignment, briefById(assignment.briefId), taken);
      }
      release(...db.packs.sweep());
      changed(projectId);
      return id;
    });
    context.pump();
    return buildId;
  }

  /** Whether the file is there already: the same inputs are not encoded twice. */
  function isMade(outputKey: string): boolean {
    const encoding = db.packs.encoding(outputKey);
    return encoding !== undefined && existsSync(store.path(encoding.sha256));
  }

  function queueFiles(
    buildId: number,
    sound: Sound,
    assignment: Assignment,
    brief: Brief,
    taken: Map<string, Set<string>>,
  ): void {
    for (const { file, outputKey } of plannedFiles(sound, brief, assignment.choices)) {
      const folder = `${brief.id}/${file.extension}`;
      const names = taken.get(folder) ?? new Set<string>();
      taken.set(folder, names);
      const known = isMade(outputKey);
      const outputId = db.packs.addOutput({
        buildId,
        assignmentId: assignment.id,
        fileId: file.id,
        outputKey,
        name: freeName(sound.name, file.extension, names),
        state: known ? 'done' : 'queued',
      });
      if (!known) db.jobs.add(sound.projectId, 'build', outputId);
    }
  }

  /** A finished output. @throws not-found while it is not finished. */
  function output(id: number): Output & { sha256: string } {
    const row = db.packs.output(id);
    if (row?.sha256 && isMade(row.outputKey)) return { ...row, sha256: row.sha256 };
    throw new BijouError('not-found', 'That file is not there.', 'Build it, then try again.');
  }

  function mimeType({ name }: Output): string {
    const extension = name.split('.').at(-1);
    return (
      writers.find((writer) => writer.extension === extension)?.mimeType ??
      'application/octet-stream'
    );
  }

  /**
   * The pack: every finished file that is up to date, a folder for each destination, and a manifest.
   * @throws not-found when there is nothing in it.
   */
  function pack(projectId: number, briefId: string | null) {
    const files = lines(projectId)
      .filter(({ assignment }) => briefId === null || assignment.briefId === briefId)
      .map(({ assignment, outputs }) => ({ brief: storedBrief(assignment.briefId), outputs }))
      .flatMap(({ brief, outputs }) =>
        outputs.flatMap((row) =>
          row.upToDate && row.sha256 && row.verification
            ? [{ brief, row, sha256: row.sha256, facts: row.verification.facts }]
            : [],
        ),
      );
    if (files.length === 0) {
      throw new BijouError('not-found', 'There is no finished file to pack.', 'Press Build first.');
    }
    const taken = new Map(files.map(({ brief }) => [brief.id, new Set<string>()]));
    const placed = files.map((file) => {
      const dot = file.row.name.lastIndexOf('.');
      // Two builds may have given two sounds one name.
      const [name, extension] = [file.row.name.slice(0, dot), file.row.name.slice(dot + 1)];
      return {
        ...file,
        path: `${file.brief.id}/${freeName(name, extension, taken.get(file.brief.id)!)}`,
      };
    });
    const manifest = placed.map(({ brief, path, sha256, facts }) => ({
      path,
      brief: brief.id,
      briefVersion: brief.version,
      sha256,
      ...facts,
    }));
    const project = db.projects.byId(projectId);
    return {
      name: `${safeFileName(project?.name ?? 'pack')}${briefId === null ? '' : ` ${briefId}`}.zip`,
      entries: packEntries(placed, manifest),
    };
  }

  /** The zip's files, opened one after the other while it is being written. */
  async function* packEntries(
    placed: readonly { path: string; sha256: string }[],
    manifest: unknown,
  ) {
    // A build that ends meanwhile takes the place of files that are still to be read.
    const letGo = store.derived.hold(placed.map(({ sha256 }) => sha256));
    try {
      yield { name: 'manifest.json', input: `${JSON.stringify(manifest, null, 2)}\n` };
      for (const { path, sha256 } of placed) {
        yield { name: path, input: createReadStream(store.path(sha256)) };
      }
    } finally {
      letGo();
    }
  }

  return { briefs: builtinBriefs, assign, unassign, lines, build, output, mimeType, pack };
}
