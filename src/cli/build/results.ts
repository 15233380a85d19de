import prettyBytes from 'pretty-bytes';
import type { Brief } from '@/core/brief/schema';
import type { Finding } from '@/core/brief/types';
import type { ErrorFacts } from '@/core/errors';
import { formatTime } from '@/core/time';
import { count } from '@/core/tradeNames';
import { plural } from '@/core/words';
import type { BuiltFacts } from '../batch/tasks';
import type { Entry } from './plan';

/** built: made now · cached: the same was made before · unchanged: it was there · skipped: it waits for a decision. */
export type BuildState = 'built' | 'cached' | 'unchanged' | 'failed' | 'skipped';

/** What came of one file. */
export interface BuildResult {
  entry: Entry;
  state: BuildState;
  /** Where it lies; another than planned where it was numbered. */
  path: string;
  bytes: number | null;
  sha256: string | null;
  /** What was found in the finished file; left out where there is none. */
  facts?: BuiltFacts['facts'];
  /** Of the sound in it. */
  seconds: number | null;
  verified: readonly Finding[];
  warnings: readonly string[];
  error: ErrorFacts | null;
  /** `bytes` is only concluded from a part of the sound. */
  isEstimated?: boolean;
}

/** The stable JSON fields of a result; see the README. */
export function resultJson({ entry, error, ...result }: BuildResult) {
  const { sound, brief, fileId } = entry;
  const { state, path, bytes, sha256, seconds, verified } = result;
  return {
    sound: sound.name,
    brief: brief.id,
    file: fileId,
    path: path.split('\\').join('/'),
    state,
    bytes,
    sourceBytes: sound.bytes,
    sha256,
    seconds,
    verified: verified.map(({ requirement, wanted, found, verdict }) => ({
      demand: requirement,
      asked: wanted,
      found,
      verdict: verdict === 'met' ? 'met' : 'unmet',
    })),
    ...(result.warnings.length > 0 && { warnings: result.warnings }),
    ...(error && { error: { code: error.code, message: error.message, hint: error.hint } }),
  };
}

export function totalsOf(results: readonly BuildResult[]) {
  const inState = (state: BuildState) => results.filter((one) => one.state === state).length;
  const made = results.filter(({ state }) => state !== 'failed' && state !== 'skipped');
  const sum = (value: (result: BuildResult) => number) =>
    made.reduce((total, result) => total + value(result), 0);
  return {
    outputs: results.length,
    built: inState('built'),
    cached: inState('cached'),
    unchanged: inState('unchanged'),
    failed: inState('failed'),
    skipped: inState('skipped'),
    bytes: sum(({ bytes }) => bytes ?? 0),
    sourceBytes: sum(({ entry }) => entry.sound.bytes),
    seconds: sum(({ seconds }) => seconds ?? 0),
  };
}

export function resultLine({ entry, state, path, bytes, error, isEstimated }: BuildResult): string {
  if (error) return `${path}  ${state}: ${error.message} ${error.hint}`;
  const { sound } = entry;
  const ratio = bytes ? `  ÷ ${(sound.bytes / bytes).toFixed(2)}` : '';
  const about = isEstimated ? 'about ' : '';
  return `${path}  ${state}  ${sound.bytes} → ${about}${bytes ?? '?'} bytes${ratio}`;
}

/** Everything in one line: "12 files: 3 built, 9 unchanged, 1.2 MB → 340 kB". */
export function totalsLine(totals: ReturnType<typeof totalsOf>, isDry: boolean): string {
  const { outputs, bytes, sourceBytes, seconds } = totals;
  const states = (['built', 'cached', 'unchanged', 'failed', 'skipped'] as const).flatMap(
    (state) =>
      totals[state] > 0
        ? `${count(totals[state])} ${isDry && state === 'built' ? 'to build' : state}`
        : [],
  );
  if (totals.unchanged === outputs && outputs > 0)
    return `Nothing to do: ${plural(outputs, 'file')} as wanted.`;
  const ratio = bytes > 0 ? ` (÷ ${(sourceBytes / bytes).toFixed(2)})` : '';
  return (
    `${plural(outputs, 'file')}: ${states.join(', ') || 'none'}; ${formatTime(seconds, 0)} of sound, ` +
    `${prettyBytes(sourceBytes)} → ${prettyBytes(bytes)}${ratio}.`
  );
}

/** What the files of each destination come to together. */
export function bytesByBrief(results: readonly BuildResult[]): Map<Brief, number> {
  const sums = new Map<Brief, number>();
  for (const { entry, bytes, state } of results) {
    const isThere = state !== 'failed' && state !== 'skipped';
    if (isThere) sums.set(entry.brief, (sums.get(entry.brief) ?? 0) + (bytes ?? 0));
  }
  return sums;
}

/** Whether the files of a destination are too many bytes together. */
export function isTooMuch([{ mostTotalBytes = Infinity }, bytes]: readonly [
  Brief,
  number,
]): boolean {
  return bytes > mostTotalBytes;
}
