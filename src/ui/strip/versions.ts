import { briefById } from '@/core/brief';
import { shapeAfter } from '@/core/recipe/recipe';
import type { PackLine, Sound } from '@/wire';
import type { Version } from './listening';

/** Every form in which a sound can be heard: as it came, as it is shaped, and each finished file. */
export function versionsOf(sound: Sound, lines: readonly PackLine[]): Version[] {
  if (!sound.facts) return [];
  const { sampleRateHz: rateHz, channels, frames } = sound.facts;
  // The source is named, so that nothing is taken for what it was before it was replaced.
  const url = `/api/sounds/${sound.id}/pcm?of=${sound.sourceSha256}`;
  const keep = sound.recipe.steps.find((step) => step.on && step.kind === 'keep');
  const offsetSeconds = Number(keep?.params['startFrame'] ?? 0) / rateHz;
  const versions: Version[] = [
    { key: `source-${sound.id}`, label: 'Source', rateHz, channels, frames, offsetSeconds: 0, url },
  ];
  // A recipe that does not fit its source leaves nothing to hear.
  if (!sound.recipeProblem && sound.recipe.steps.some((step) => step.on)) {
    const shape = shapeAfter(sound.recipe, { rateHz, channelCount: channels, frames });
    versions.push({
      // The recipe is part of the key: a changed recipe is another sound.
      key: `shaped-${sound.id}-${JSON.stringify(sound.recipe.steps)}`,
      label: 'Shaped',
      rateHz: shape.rateHz,
      channels: shape.channelCount,
      frames: shape.frames,
      offsetSeconds,
      url: `${url}&version=shaped`,
    });
  }
  for (const { assignment, outputs } of lines) {
    if (assignment.soundId !== sound.id) continue;
    const { title } = briefById(assignment.briefId);
    for (const output of outputs) {
      const facts = output.verification?.facts;
      if (!facts || !output.upToDate) continue;
      versions.push({
        key: `output-${output.id}`,
        label: `${title} · ${output.name.split('.').at(-1)?.toUpperCase()}`,
        rateHz: facts.sampleRateHz,
        channels: facts.channels,
        frames: facts.frames,
        offsetSeconds,
        url: `/api/outputs/${output.id}/pcm`,
      });
    }
  }
  return versions;
}
