import { accepts } from './accepted';
import type { Choices } from './choices';
import type { Brief, BriefFile } from './schema';

/**
 * The brief as it binds one sound: of what it leaves open, what was chosen. A choice that it does not take (any more)
 * changes nothing.
 */
export function narrowedBrief(brief: Brief, choices: Choices): Brief {
  const { rateHz, isMono, settings } = choices;
  if (rateHz === undefined && !isMono && !settings) return brief;
  return { ...brief, files: brief.files.map((file) => narrowedFile(file, choices)) };
}

function narrowedFile(file: BriefFile, { rateHz, isMono, settings }: Choices): BriefFile {
  const isRate = rateHz !== undefined && accepts(file.sampleRatesHz, rateHz);
  const isMonoTaken = isMono && accepts(file.channels, 1);
  const chosen = settings?.[file.id];
  return {
    ...file,
    ...(isRate && { sampleRatesHz: [rateHz] }),
    ...(isMonoTaken && { channels: [1] }),
    ...(chosen && { settings: withChosen(file.settings, chosen) }),
    ...narrowedDepth(file, chosen?.['bits']),
  };
}

/** Of several depths the chosen one. */
function narrowedDepth({ bitDepths }: BriefFile, bits: number | undefined): Partial<BriefFile> {
  return bits !== undefined && bitDepths?.includes(bits) ? { bitDepths: [bits] } : {};
}

/** A bit rate takes the place of a quality, and the other way round. */
function withChosen(settings: object, chosen: Record<string, number>): object {
  const isOne = 'kbps' in chosen || 'quality' in chosen;
  const kept = Object.entries(settings).filter(
    ([key]) => !isOne || (key !== 'kbps' && key !== 'quality'),
  );
  return { ...Object.fromEntries(kept), ...chosen };
}
