import { mkdir, mkdtemp, rm } from 'node:fs/promises';
import { dirname, join, resolve } from 'node:path';
import prettyBytes from 'pretty-bytes';
import { BijouError } from '@/core/errors';
import {
  packChanges,
  PATCH_LIST,
  patchText,
  pathsInPatch,
  type PackChanges,
} from '@/core/pack/changes';
import { reasonsAgainst } from '@/core/pack/plan';
import type { PackTrouble } from '@/core/pack/troubles';
import { encodeText } from '@/core/formats/bits';
import { plural } from '@/core/words';
import { openForReading, type ReadOnlyBijou } from '@/server/readOnly';
import { digestOf } from '@/server/services/outlines';
import { Crew, threadCount } from '../batch/crew';
import { Builder } from '../build/builder';
import { entriesOf } from '../build/plan';
import { BuildRecord, tidyFolder } from '../build/record';
import { totalsOf } from '../build/results';
import { makeOutFolder } from '../outFolder';
import { print, say } from '../output';
import { STATUS } from '../status';
import type { PackOptions } from './options';
import { plannedPack, type PlannedPack } from './plan';
import { rehearsalsOf, type PackRehearsal } from './rehearsals';
import { earlierPack, type EarlierPack } from './since';
import { isZipName, writeFolder, writeZip, type WrittenFile } from './target';

/** Makes a pack of what a project sends to some destinations. Answers the exit status. */
export async function runPack(options: PackOptions): Promise<number> {
  const threads = threadCount(options.threads);
  const bijou = openForReading(resolve(process.env['BIJOU_DATA'] ?? 'data'));
  const { id: projectId } = bijou.project(options.project);
  try {
    const before =
      options.since === undefined ? null : await earlierPack(bijou, projectId, options.since);
    const work = await workFolder(options);
    try {
      return await packed(bijou, projectId, options, before, work, threads);
    } finally {
      if (options.work === undefined) await rm(work, { recursive: true, force: true });
    }
  } finally {
    bijou.close();
  }
}

/** Where built files lie until they are packed: on the disk of the result, unless another place is named. */
async function workFolder({ work, out }: PackOptions): Promise<string> {
  if (work !== undefined) {
    await makeOutFolder(work);
    return work;
  }
  if (out.trim() === '') {
    throw new BijouError('wrong-call', '--out names nothing.', 'Name a folder, or a file.zip.');
  }
  const beside = dirname(resolve(out));
  await makeOutFolder(beside);
  await mkdir(beside, { recursive: true });
  return mkdtemp(join(beside, `.bijou-${process.pid}-`));
}

async function packed(
  bijou: ReadOnlyBijou,
  projectId: number,
  options: PackOptions,
  before: EarlierPack | null,
  work: string,
  threads: number,
): Promise<number> {
  const { json = false, out } = options;
  const entries = await entriesOf(bijou, projectId, options);
  await tidyFolder(work);
  const crew = new Crew(threads);
  const builder = new Builder(bijou, crew, await BuildRecord.of(work), work, false);
  const stop = () => void builder.stop();
  process.once('SIGINT', stop).once('SIGTERM', stop);
  try {
    const results = await builder.build(entries, {
      isShown: Boolean(process.stderr.isTTY) && !json,
    });
    if (builder.isStopped) {
      say('Stopped: no pack was written.');
      process.exit(STATUS.stopped);
    }
    const plan = await plannedPack(bijou, projectId, options, results, work);
    const wrong = reasonsAgainst(plan);
    const changes = before && packChanges(before.files, plan.files);
    const written =
      wrong.length === 0 ? await write(out, chosenFiles(plan, before, changes)) : null;
    const rehearsals = written ? await rehearsalsOf(bijou.briefs(projectId), options, plan) : [];
    const totals = totalsOf(results);
    await tell({ options, plan, written, before, changes, totals, rehearsals });
    return wrong.length === 0 ? STATUS.done : STATUS.someFailed;
  } finally {
    process.off('SIGINT', stop).off('SIGTERM', stop);
    await crew.close();
  }
}

/** All files, or those that are other than before with the list of them. @throws not-allowed */
function chosenFiles(
  { files }: PlannedPack,
  before: EarlierPack | null,
  changes: PackChanges | null,
): WrittenFile[] {
  if (!before || !changes) return files;
  const wanted = pathsInPatch(changes);
  const since = { id: before.id, sha256: digestOf(before.files) };
  const list = encodeText(patchText(changes, since));
  return [{ path: PATCH_LIST, content: list }, ...files.filter(({ path }) => wanted.has(path))];
}

async function write(out: string, files: readonly WrittenFile[]) {
  if (isZipName(out)) return writeZip(out, files);
  await writeFolder(out, files);
  return { sha256: null, bytes: null };
}

interface Told {
  options: PackOptions;
  plan: PlannedPack;
  /** null where the pack would be wrong. */
  written: { sha256: string | null; bytes: number | null } | null;
  before: EarlierPack | null;
  changes: PackChanges | null;
  totals: ReturnType<typeof totalsOf>;
  rehearsals: readonly PackRehearsal[];
}

async function tell(told: Told): Promise<void> {
  if (told.options.json) return print(JSON.stringify(packJson(told), null, 2));
  const { options, plan, written, changes } = told;
  for (const { weight, message, hint } of plan.troubles) {
    say(weight === 'note' ? `Note: ${message}` : `${message} ${hint}`);
  }
  if (!written) {
    const count = reasonsAgainst(plan).length;
    return say(`No pack was written: it would be wrong, for ${plural(count, 'reason')}.`);
  }
  const bytes = plan.files.reduce((sum, file) => sum + file.bytes, 0);
  await print(`${options.out}  ${plural(plan.files.length, 'file')}, ${prettyBytes(bytes)}`);
  for (const { brief, host, accepted, first } of told.rehearsals) {
    await print(
      `  ${brief} is ${accepted ? 'accepted' : 'refused'} by ${host}${first ? `: ${first}` : ''}`,
    );
  }
  if (!changes) return;
  for (const { path } of changes.added) await print(`  new      ${path}`);
  for (const { path } of changes.changed) await print(`  changed  ${path}`);
  for (const { path, from } of changes.moved) await print(`  moved    ${from} → ${path}`);
  for (const { path } of changes.removed) await print(`  gone     ${path}`);
  await print(`  ${plural(changes.same, 'file')} as before`);
}

/** The stable JSON fields of a pack; see the README. */
function packJson({ options, plan, written, before, changes, totals, rehearsals }: Told) {
  const paths = (files: readonly { path: string }[]) => files.map(({ path }) => path);
  return {
    out: options.out,
    right: written !== null,
    title: plan.title,
    briefs: options.brief,
    digest: written && digestOf(plan.files),
    ...(written?.sha256 && { sha256: written.sha256, zipBytes: written.bytes }),
    bytes: plan.files.reduce((sum, { bytes }) => sum + bytes, 0),
    files: plan.files.map(({ path, kind, briefId, sha256, bytes }) => ({
      path,
      kind,
      brief: briefId,
      sha256,
      bytes,
    })),
    problems: plan.troubles.map(problemJson),
    built: { built: totals.built, cached: totals.cached, unchanged: totals.unchanged },
    rehearsals: rehearsals.map(({ brief, host, accepted, refused }) => ({
      ...{ brief, host, accepted, refused },
    })),
    ...(changes && {
      since: {
        pack: before!.id ?? options.since,
        added: paths(changes.added),
        changed: paths(changes.changed),
        moved: changes.moved.map(({ path, from }) => ({ from, to: path })),
        removed: paths(changes.removed),
        same: changes.same,
      },
    }),
  };
}

function problemJson({ weight, about, briefId, message, hint, path, line, column }: PackTrouble) {
  return {
    weight,
    about,
    brief: briefId,
    message,
    hint,
    ...(path !== undefined && { path }),
    ...(line !== undefined && { line, column }),
  };
}
