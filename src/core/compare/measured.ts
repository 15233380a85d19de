import type { NamedCandidate } from './candidates/candidate';
import {
  loadPolicies,
  usualLoad,
  voicesPerCore,
  type LoadedSound,
  type LoadSettings,
} from './load';
import { nativeCostOf } from './nativeCost';
import type { ListedFigures } from './trial';
import type { WorkFigures } from './work';

/** The sound of a trial, behind its own steps. */
export interface TriedSound {
  seconds: number;
  sampleRateHz: number;
  channels: number;
  /** Of the file that came in. */
  sourceBytes: number;
}

/** A candidate that was measured on a sound. What is not measured yet, or cannot be, is null. */
export interface MeasuredTrial {
  candidate: NamedCandidate;
  /** Complete settings. */
  settings: object;
  sound: TriedSound;
  figures: ListedFigures;
  /** What encoding took. */
  encodeMs: number | null;
  work: WorkFigures | null;
}

/** One figure of trials: how it is called, what it means, and which way is better. */
export interface TrialColumn {
  id: string;
  title: string;
  /** What stands behind the number; "" for none. */
  unit: string;
  /** What it means, and what it cannot see, for people. */
  says: string;
  decimals: number;
  /** null where neither end is better. */
  better: 'low' | 'high' | null;
  /** null where it has no meaning, or is not measured yet. */
  value(trial: MeasuredTrial): number | null;
}

/** What ways of loading have to know of it; null before its work was measured. */
export function loadedSound({ candidate, figures, work }: MeasuredTrial): LoadedSound | null {
  if (!work) return null;
  const { codec } = candidate;
  const { bytes, frames, sampleRateHz, channels } = figures;
  const { msPerSecond, firstBlockMs } = work;
  return { codec, bytes, frames, sampleRateHz, channels, msPerSecond, firstBlockMs };
}

/** The bytes that so many voices need, by way of loading. */
function memoryBytes(sound: LoadedSound, settings: LoadSettings = usualLoad) {
  const of = (id: string) =>
    Math.round(loadPolicies.find((one) => one.id === id)!.cost(sound, settings).residentBytes);
  return { unpacked: of('unpacked'), packed: of('packed'), streamed: of('streamed') };
}

/** The stable JSON fields of a trial; see the README. `text` is how the candidate was asked for. */
export function trialJson(
  trial: MeasuredTrial,
  load: LoadSettings = usualLoad,
  text = trial.candidate.text,
) {
  const { candidate, settings, sound, figures, encodeMs, work } = trial;
  const { fidelity } = figures;
  const loaded = loadedSound(trial);
  return {
    candidate: text,
    format: candidate.format,
    codec: candidate.codec,
    settings,
    sampleRateHz: figures.sampleRateHz,
    channels: figures.channels,
    bytes: figures.bytes,
    kbps: kbpsOf(trial),
    ratio: figures.bytes / sound.sourceBytes,
    encodeRealtime: encodeMs ? (sound.seconds * 1000) / encodeMs : null,
    decodeMsPerSecond: work?.msPerSecond ?? null,
    nativeCost: nativeCostOf({
      codec: candidate.codec,
      sampleRateHz: figures.sampleRateHz,
      channels: figures.channels,
    }),
    voicesPerCore: work && voicesPerCore(work.msPerSecond, load.slower),
    firstBlockMs: work?.firstBlockMs ?? null,
    extraHeadFrames: figures.extraHeadFrames,
    extraTailFrames: figures.extraTailFrames,
    bandwidthHz: fidelity.bandwidthHz,
    noiseDb: fidelity.noiseDb,
    nmrDb: fidelity.nmrDb,
    grade: fidelity.grade,
    worstHalfSecond: fidelity.worstHalfSecond ?? null,
    missing: fidelity.missing ?? null,
    unheard: fidelity.unheard ?? null,
    mixdownLossDb: fidelity.mixdownLossDb ?? null,
    truePeakDbtp: fidelity.truePeakDbtp,
    memoryBytes: loaded && memoryBytes(loaded, load),
  };
}

/** What the file really comes to, in kbit/s. */
export function kbpsOf({ figures, sound }: MeasuredTrial): number {
  return (figures.bytes * 8) / sound.seconds / 1000;
}
