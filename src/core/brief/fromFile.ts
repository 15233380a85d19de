import { BijouError } from '../errors';
import { filledSettings } from '../formats/write';
import { writers } from '../formats';
import { formatName } from '../tradeNames';
import type { ListedFacts } from '../measure/probe';
import { keepsBitRate } from './contradictions';
import type { BriefText } from './schema';

/**
 * A brief that is begun from a file that works: what the file is becomes what is demanded, to be loosened by whoever
 * knows better. Its length and level are no demands: other sounds have others.
 * @param fileName With its ending.
 * @throws not-legal for a format that Bijou reads and does not write
 */
export function briefOfFile(
  id: string,
  title: string,
  facts: ListedFacts,
  fileName: string,
): BriefText {
  const { container, codec, sampleRateHz, channels, bitDepth, constantKbps, bitRateKbps } = facts;
  const name = formatName(container, codec);
  const writer = writers.find((kind) => kind.container === container && kind.codec === codec);
  if (!writer) {
    throw new BijouError(
      'not-legal',
      `Bijou reads ${name} and does not write it.`,
      'Begin with the brief whose format comes nearest.',
    );
  }
  const depth = writer.legal.depths?.find(({ bits }) => bits === bitDepth);
  const bitRate = nearBitRate(writer, constantKbps ?? bitRateKbps, sampleRateHz, channels);
  const settings = { ...depth?.settings, ...bitRate };
  const ending = endingOf(fileName);
  return {
    id,
    version: 1,
    title,
    purpose: `Begun from “${fileName}”, which works: ${name}.`,
    files: [
      {
        id: writer.format,
        writer: writer.id,
        settings,
        sampleRatesHz: [sampleRateHz],
        channels: [channels],
        ...(depth && bitDepth !== null && { bitDepths: [bitDepth] }),
        ...('kbps' in bitRate && { isConstant: keepsBitRate(writer, settings) }),
        ...(ending !== null && ending !== writer.extension && { ending }),
      },
    ],
    ...(facts.loop && writer.carries.loop && { loop: { marked: 'file' as const } }),
    notes: [],
  };
}

/** The setting that comes nearest to a bit rate; none where the writer has no such setting. */
function nearBitRate(
  writer: (typeof writers)[number],
  kbps: number,
  rateHz: number,
  channels: number,
): { kbps?: number } {
  if (!writer.dials.some(({ name }) => name === 'kbps')) return {};
  const [dial] = writer.dials.filter(({ name }) => name === 'kbps');
  const values = dial!.values.filter(
    (value) => !writer.refuses?.(filledSettings(writer, { kbps: value }), rateHz, channels),
  );
  const near = [...values].sort((a, b) => Math.abs(a - kbps) - Math.abs(b - kbps))[0];
  return near === undefined ? {} : { kbps: near };
}

/** The ending of a name, as far as a brief can demand it; null for none that it can. */
function endingOf(fileName: string): string | null {
  const [, ending] = /\.([\w-]{1,16})$/.exec(fileName) ?? [];
  return ending ?? null;
}
