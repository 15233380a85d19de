import prettyBytes from 'pretty-bytes';
import type { BijouError, ErrorFacts } from '@/core/errors';
import type { ListedFacts } from '@/core/measure/probe';
import { formatTime } from '@/core/time';
import { count } from '@/core/tradeNames';
import { plural } from '@/core/words';
import { harmlessName, OutputClosed, print, say } from './output';
import { isTerminal, Progress, timesRealTime, type Done } from './progress';
import { STATUS } from './status';
import { fileError } from './disk/trouble';
import { Troubles } from './troubles';

/** The stable JSON fields of a sound; see the README. */
export function factsJson(file: string, facts: ListedFacts) {
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

/** How a call wants to be answered. */
export interface Manner {
  /** The only thing on standard output is an array of all results. */
  json?: boolean | undefined;
  /** … or one result a line, each as soon as it is there. */
  jsonLines?: boolean | undefined;
  /** Standard output is left to somebody else. */
  toErrors?: boolean | undefined;
  /** Nothing is said of files that went well. */
  isQuiet?: boolean | undefined;
  /** Says how far it is, on a terminal. */
  hasProgress?: boolean | undefined;
  /** Files are made: that goes on although nobody reads any more what is said of it. */
  makesFiles?: boolean | undefined;
}

/** How a file is called: by people, and in JSON. */
export interface FileName {
  path: string;
  shown: string;
}

/** What came of a file. */
export interface FileResult {
  line: string;
  data: object;
  warnings?: readonly string[];
  failed?: boolean;
  seconds?: number;
  bytesBefore?: number;
  bytesAfter?: number;
}

/** Says what came of the files of one call, one after the other and all together. */
export class Report {
  readonly done: Done = { files: 0, failed: 0, seconds: 0, bytesBefore: 0, bytesAfter: 0 };
  readonly progress: Progress;
  private readonly troubles = new Troubles();
  private listed = 0;
  private isBrokenOff = false;

  constructor(private readonly manner: Manner) {
    const isShown = isTerminal() && !manner.json && !manner.jsonLines;
    this.progress = new Progress(Boolean(manner.hasProgress && isShown));
  }

  async went(file: FileName, result: FileResult): Promise<void> {
    const { line, data, warnings = [], failed = false } = result;
    for (const warning of warnings) this.troubles.add(harmlessName(file.shown), warning);
    this.done.files++;
    if (failed) this.done.failed++;
    this.done.seconds += result.seconds ?? 0;
    this.done.bytesBefore += result.bytesBefore ?? 0;
    this.done.bytesAfter += result.bytesAfter ?? 0;
    await this.put(data);
    const { json, jsonLines, isQuiet, toErrors } = this.manner;
    if (!json && !jsonLines && !isQuiet) {
      this.progress.clear();
      await (toErrors ? say(line) : this.print(line));
    }
    this.progress.draw(this.done);
  }

  async failed(file: FileName, error: unknown): Promise<void> {
    const facts = fileError(error);
    this.done.files++;
    this.done.failed++;
    this.troubles.add(harmlessName(file.shown), `${facts.message} ${facts.hint}`);
    await this.put(failedJson(file.path, facts));
    this.progress.draw(this.done);
  }

  /** One more result for those who read JSON. */
  private async put(data: object): Promise<void> {
    const { json, jsonLines } = this.manner;
    if (jsonLines) await this.print(JSON.stringify(data));
    if (!json || this.isBrokenOff) return;
    const text = JSON.stringify(data, null, 2).replaceAll('\n', '\n  ');
    await this.print(this.listed++ === 0 ? `[\n  ${text}` : `,\n  ${text}`, false);
  }

  /** Leaves a whole JSON value behind, whatever is still to come. */
  async breakOff(): Promise<void> {
    this.progress.clear();
    if (this.isBrokenOff || !this.manner.json) return;
    this.isBrokenOff = true;
    await this.print(this.listed === 0 ? '[]' : '\n]');
  }

  private async print(line: string, isEnded = true): Promise<void> {
    await print(line, isEnded).catch((error: unknown) => {
      if (!this.manner.makesFiles || !(error instanceof OutputClosed)) throw error;
    });
  }

  /** Says what the files have in common, and answers the exit status. */
  async end(): Promise<number> {
    await this.breakOff();
    for (const line of this.troubles.lines()) say(harmlessName(line));
    return this.done.failed > 0 ? STATUS.someFailed : STATUS.done;
  }

  /** All files in one line: "252 files, 3 failed: 41:12 of sound, 120 MB → 14 MB (÷ 8.50), 0:38". */
  summary(threads: number): string {
    const { files, failed, seconds, bytesBefore, bytesAfter } = this.done;
    const { ms } = this.progress;
    const ratio = bytesAfter > 0 ? ` (÷ ${(bytesBefore / bytesAfter).toFixed(2)})` : '';
    const parts = [
      `${formatTime(seconds, 0)} of sound`,
      `${prettyBytes(bytesBefore)} → ${prettyBytes(bytesAfter)}${ratio}`,
      `in ${formatTime(ms / 1000, 1)}`,
      timesRealTime(seconds, ms),
      `${plural(threads, 'thread')}`,
    ];
    const failures = failed > 0 ? `, ${count(failed)} failed` : '';
    return `${plural(files, 'file')}${failures}: ${parts.join(', ')}.`;
  }
}

/** A call that can do nothing for any of its files: said once, and in JSON for each of them. */
export async function refuseAll(
  files: readonly string[],
  { json, jsonLines }: Manner,
  refusal: BijouError,
): Promise<number> {
  say(`${refusal.message} ${refusal.hint}`);
  const failures = files.map((file) => failedJson(file, refusal));
  if (json) await print(JSON.stringify(failures, null, 2));
  if (jsonLines) for (const failure of failures) await print(JSON.stringify(failure));
  return STATUS.wrongCall;
}

function failedJson(file: string, { code, message, hint, byteOffset }: ErrorFacts) {
  return { file, error: { code, message, hint, ...(byteOffset !== undefined && { byteOffset }) } };
}
