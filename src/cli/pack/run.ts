import { createHash } from 'node:crypto';
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
import { digestOf } from '@/server/files/packDigest';
import { Crew, threadCount } from '../batch/crew';
import { Builder } from '../build/builder';
import { entriesOf } from '../build/plan';
import { BuildRecord } from '../build/record';
import { totalsOf } from '../build/results';
import type { Hashed } from '../disk/copies';
import { makeOutFolder } from '../disk/outFolder';
import { Sources } from '../disk/sources';
import { clearDead, dropTemporary, workFolderIn } from '../disk/temporaries';
import { fileError } from '../disk/trouble';
import { stoppable } from '../ending';
import { cancelledJson, printOn, say } from '../output';
import { checkLine } from '../rehearse/run';
import { isTerminal } from '../progress';
import { STATUS } from '../status';
import { checkFolder, writeFolder, type WrittenFile } from './folder';
import type { PackOptions } from './options';
import { plannedPack, type PlannedPack } from './plan';
import { rehearsalsOf, type PackRehearsal } from './rehearsals';
import { earlierPack, type EarlierPack } from './since';
import { checkZip, isZipName, writeZip } from './zip';

/** Makes a pack of what a project sends to some destinations. Answers the exit status. */
export async function runPack(options: PackOptions): Promise<number> {
  const { out, since, icon, work: kept, overwrite = false } = options;
  const threads = threadCount(options.threads);
  if (out.trim() === '') {
    throw new BijouError('wrong-call', '--out names nothing.', 'Name a folder, or a file.zip.');
  }
  const bijou = openForReading(resolve(process.env['BIJOU_DATA'] ?? 'data'));
  const { id: projectId } = bijou.project(options.project);
  try {
    const { dataDir } = bijou;
    const sources = await Sources.of(
      [since, icon, join(dataDir, 'bijou.db')].filter((path) => path !== undefined),
      [join(dataDir, 'files'), ...(kept === undefined ? [] : [kept])],
    );
    await sources.refuse(out);
    // Before anything is built.
    await (isZipName(out) ? checkZip(out, overwrite) : checkFolder(out));
    const before = since === undefined ? null : await earlierPack(bijou, projectId, since);
    const work = await workFolder(options);
    try {
      return await packed(bijou, projectId, options, before, work, threads);
    } finally {
      if (kept === undefined) await dropTemporary(work);
    }
  } finally {
    bijou.close();
  }
}

/** Where built files lie until they are packed: on the disk of the result, unless another place is named. */
async function workFolder({ work, out }: PackOptions): Promise<string> {
  if (work !== undefined) {
    await makeOutFolder(work, 'work');
    await clearDead(work);
    return work;
  }
  const beside = dirname(resolve(out));
  await makeOutFolder(beside);
  await clearDead(beside);
  return workFolderIn(beside);
}

async function packed(
  bijou: ReadOnlyBijou,
  projectId: number,
  options: PackOptions,
  before: EarlierPack | null,
  work: string,
  threads: number,
): Promise<number> {
  const { json = false } = options;
  const entries = await entriesOf(bijou, projectId, options);
  const crew = new Crew(threads);
  const builder = new Builder(bijou, crew, await BuildRecord.of(work), work, false);
  let written: Written | null = null;
  const tell = async () => {
    if (json && !written) await printOn(cancelledJson());
    say(written ? 'Stopped: the pack was written before that.' : 'Stopped: no pack was written.');
  };
  const how = { stop: () => builder.stop(), isFragile: () => crew.isFragile, tell };
  try {
    return await stoppable(how, async () => {
      const results = await builder.build(entries, { isShown: isTerminal() && !json });
      if (builder.isStopped) return STATUS.stopped;
      const plan = await plannedPack(bijou, projectId, options, results, work);
      const wrong = reasonsAgainst(plan).length;
      const changes = before && packChanges(before.files, plan.files);
      const rehearsals =
        wrong === 0 ? await rehearsalsOf(bijou.briefs(projectId), options, plan) : [];
      const isRight = wrong === 0 && rehearsals.every(({ accepted }) => accepted);
      if (isRight) written = await write(options, chosenFiles(plan, before, changes));
      const totals = totalsOf(results);
      await tellPack({ options, plan, written, before, changes, totals, rehearsals });
      return isRight ? STATUS.done : STATUS.someFailed;
    });
  } finally {
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
  const sha256 = createHash('sha256').update(list).digest('hex');
  return [
    { path: PATCH_LIST, content: list, sha256 },
    ...files.filter(({ path }) => wanted.has(path)),
  ];
}

/** A pack that lies in its place. */
interface Written {
  /** Of a zip. */
  zip: Hashed | null;
  /** Where that lies which somebody put into its folder meanwhile. */
  keptAside: string | null;
}

async function write(
  { out, overwrite = false }: PackOptions,
  files: readonly WrittenFile[],
): Promise<Written> {
  try {
    if (isZipName(out)) return { zip: await writeZip(out, files, overwrite), keptAside: null };
    return { zip: null, keptAside: await writeFolder(out, files) };
  } catch (error) {
    if (error instanceof BijouError) throw error;
    const { code, message, hint } = fileError(error);
    throw new BijouError(code === 'not-found' ? 'disk' : code, `"${out}": ${message}`, hint);
  }
}

interface Told {
  options: PackOptions;
  plan: PlannedPack;
  /** null where the pack would be wrong, or is refused by a host. */
  written: Written | null;
  before: EarlierPack | null;
  changes: PackChanges | null;
  totals: ReturnType<typeof totalsOf>;
  rehearsals: readonly PackRehearsal[];
}

async function tellPack(told: Told): Promise<void> {
  const { options, plan, written, changes } = told;
  if (written?.keptAside) say(keptAsideText(written.keptAside));
  if (told.options.json) return printOn(JSON.stringify(packJson(told), null, 2));
  for (const { weight, message, hint } of plan.troubles) {
    say(weight === 'note' ? `Note: ${message}` : `${message} ${hint}`);
  }
  if (!written) {
    const count = reasonsAgainst(plan).length;
    if (count > 0) {
      return say(`No pack was written: it would be wrong, for ${plural(count, 'reason')}.`);
    }
    for (const { refused } of told.rehearsals) for (const check of refused) say(checkLine(check));
    const hosts = told.rehearsals.flatMap(({ accepted, host }) => (accepted ? [] : [host]));
    return say(`No pack was written: it is refused by ${hosts.join(', ')}.`);
  }
  const bytes = plan.files.reduce((sum, file) => sum + file.bytes, 0);
  await printOn(`${options.out}  ${plural(plan.files.length, 'file')}, ${prettyBytes(bytes)}`);
  for (const { brief, host } of told.rehearsals) await printOn(`  ${brief} is accepted by ${host}`);
  if (!changes) return;
  for (const { path } of changes.added) await printOn(`  new      ${path}`);
  for (const { path } of changes.changed) await printOn(`  changed  ${path}`);
  for (const { path, from } of changes.moved) await printOn(`  moved    ${from} → ${path}`);
  for (const { path } of changes.removed) await printOn(`  gone     ${path}`);
  await printOn(`  ${plural(changes.same, 'file')} as before`);
}

function keptAsideText(place: string): string {
  return `Something was put into the folder while it was exchanged: that is kept, in "${place}".`;
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
    ...(written?.zip && { sha256: written.zip.sha256, zipBytes: written.zip.bytes }),
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
      ...{ brief, host, accepted, refused: refused.length },
      reasons: refused.map(({ file, rule, asked, found, cure }) => ({
        ...{ file, rule, asked, found },
        ...(cure !== undefined && { cure }),
      })),
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
