import { storedBrief } from '@/core/brief/catalogue';
import { shapedVersion } from './shaped';
import type { VersionProvider } from './types';

/** Each finished file that is up to date, as its decoder gives it. */
export const builtVersions: VersionProvider = (heard) => {
  const { sound, source, lines, briefs } = heard;
  const [shaped] = shapedVersion(heard);
  return lines
    .filter(({ assignment }) => assignment.soundId === sound.id)
    .flatMap(({ assignment, outputs }) => {
      const { title } = storedBrief(briefs, assignment.briefId);
      return outputs.flatMap(({ id, name, upToDate, sha256, verification }) => {
        const facts = verification?.facts;
        if (!facts || !upToDate) return [];
        const scale = facts.frames / (shaped ?? source).frames;
        return {
          key: `output-${id}`,
          content: String(sha256),
          label: `${title} · ${name.split('.').at(-1)?.toUpperCase()}`,
          rateHz: facts.sampleRateHz,
          channels: facts.channels,
          frames: facts.frames,
          loudness: facts.lufs ?? facts.rmsDbfs,
          url: `/api/outputs/${id}/pcm`,
          toSource: (frame: number) => (shaped?.toSource ?? Number)(frame / scale),
          fromSource: (frame: number) => (shaped?.fromSource ?? Number)(frame) * scale,
        };
      });
    });
};
