import { errorFacts, type BijouError, type ErrorFacts } from '@/core/errors';
import type { Facts } from '@/core/measure/probe';
import { OutputClosed, OutputFault, print, say } from './output';

/** Exit statuses of every command. */
export const STATUS = { done: 0, someFailed: 1, wrongCall: 2 } as const;

/** The stable JSON fields of a sound; see the README. */
export function factsJson(file: string, facts: Facts) {
  return {
    file,
    container: facts.container,
    codec: facts.codec,
    sampleRateHz: facts.sampleRateHz,
    channels: facts.channels,
    bitDepth: facts.bitDepth,
    frames: facts.frames,
    seconds: facts.seconds,
    bytes: facts.bytes,
    bitRateKbps: facts.bitRateKbps,
    peakDbfs: facts.peakDbfs,
    rmsDbfs: facts.rmsDbfs,
    truePeakDbtp: facts.truePeakDbtp,
    lufs: facts.lufs,
    loudnessRangeLu: facts.loudnessRangeLu,
    correlation: facts.correlation,
    dcOffset: facts.dcOffset,
    clippedRuns: facts.clippedRuns,
    clippedPlaces: facts.clippedPlaces,
    headSilenceSeconds: facts.headSilenceSeconds,
    tailSilenceSeconds: facts.tailSilenceSeconds,
    bandwidthHz: facts.bandwidthHz,
    shelfHz: facts.shelfHz,
    usedBits: facts.usedBits,
    identicalChannels: facts.identicalChannels,
    speakers: facts.speakers,
    addedFrames: facts.addedFrames,
    loop: facts.loop,
    markers: facts.markers,
    tags: facts.tags,
  };
}

export function decibels(value: number | null): string {
  return value === null ? '−∞ dB' : `${value.toFixed(1).replace('-', '−')} dB`;
}

/**
 * Runs `work` for each file in turn; a file that fails is reported and the rest goes on.
 * With `json`, the only thing on standard output is the array of all results; `toErrors` leaves
 * standard output to somebody else, and `quiet` says nothing of files that went well.
 */
export async function eachFile<T extends object>(
  files: readonly string[],
  { json, toErrors = false, quiet = false }: { json: boolean; toErrors?: boolean; quiet?: boolean },
  work: (
    file: string,
    index: number,
  ) => Promise<{ line: string; data: T; warnings?: string[]; failed?: boolean }>,
): Promise<number> {
  const results: object[] = [];
  let failed = 0;
  for (const [index, file] of files.entries()) {
    try {
      const done = await work(file, index);
      for (const warning of done.warnings ?? []) say(`${file}: ${warning}`);
      if (!json && !quiet) await (toErrors ? say : print)(done.line);
      results.push(done.data);
      if (done.failed) failed++;
    } catch (error) {
      if (error instanceof OutputClosed || error instanceof OutputFault) throw error;
      const facts = fileError(error);
      failed++;
      say(`${file}: ${facts.message} ${facts.hint}`);
      results.push(failedJson(file, facts));
    }
  }
  if (json) await print(JSON.stringify(results, null, 2));
  return failed > 0 ? STATUS.someFailed : STATUS.done;
}

/** A call that can do nothing for any of its files: said once, and in JSON for each of them. */
export async function refuseAll(
  files: readonly string[],
  json: boolean,
  refusal: BijouError,
): Promise<number> {
  say(`${refusal.message} ${refusal.hint}`);
  if (json)
    await print(
      JSON.stringify(
        files.map((file) => failedJson(file, refusal)),
        null,
        2,
      ),
    );
  return STATUS.wrongCall;
}

function failedJson(file: string, { code, message, hint, byteOffset }: ErrorFacts) {
  return { file, error: { code, message, hint, ...(byteOffset !== undefined && { byteOffset }) } };
}

/** Faults of the file system get sentences too. */
function fileError(error: unknown): ErrorFacts {
  const code = (error as NodeJS.ErrnoException | null)?.code;
  const sentences: Record<string, [string, string]> = {
    ENOENT: ['There is no such file.', 'Check the name and the folder.'],
    EISDIR: ['It is a folder, not a file.', 'Name the files in it.'],
    EACCES: ['It may not be read or written.', 'Check its permissions.'],
    ENAMETOOLONG: ['Its name is too long for this disk.', 'Give it a shorter name.'],
    ENOTDIR: ['A part of its path is a file.', 'Check the name and the folder.'],
    ELOOP: ['Its links go round in circles.', 'Name the file itself.'],
    EROFS: ['The disk is read-only.', 'Choose another folder with --out.'],
    EPERM: ['It may not be read or written.', 'Check its permissions.'],
  };
  const known = code === undefined ? undefined : sentences[code];
  if (known) return { code: 'not-found', message: known[0], hint: known[1] };
  return errorFacts(error);
}
