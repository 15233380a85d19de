import { crc32 } from '../bytes/crc';
import type { ByteSource } from '../bytes/source';
import { openSound } from '../formats/open';
import { codecName, containerName, either, layoutName, ratesText } from '../tradeNames';
import { formatTime } from '../time';
import { objectionOf, type Checking } from './checks';
import { damageOf } from './intact';
import type { LoadedSound, OpenSound } from './kind';
import type { FoundFile } from './pack';

/** What a host demands of every sound. */
export interface SoundDemands {
  container: string;
  codec: string;
  /** With its dot. */
  ending: string;
  channels: readonly number[];
  ratesHz: readonly number[];
  mostSeconds: number;
}

/** Takes a sound in by a host's demands; null where it is refused. */
export async function takenSound(
  file: FoundFile,
  demands: SoundDemands,
  checking: Checking,
): Promise<OpenSound | null> {
  const { path } = file;
  const { container, codec, ending } = demands;
  const asked = containerName(container);
  let source: ByteSource;
  try {
    source = await file.open();
  } catch (error) {
    checking.refuse(path, objectionOf(error, 'undamaged', 'a whole file'));
    return null;
  }
  const sound = await openSound(source).catch((error: unknown) => {
    const isOther = (error as { code?: unknown }).code === 'not-audio';
    const rule = isOther ? 'container' : 'undamaged';
    checking.refuse(path, objectionOf(error, rule, isOther ? asked : 'a whole file'));
    return null;
  });
  if (!sound) return null;
  const { header } = sound;
  const cure = `Build it for this host: ${asked} with ${codecName(codec)}.`;
  if (header.container !== container) {
    const isHidden = path.endsWith(ending);
    const found = `${containerName(header.container)}${isHidden ? ', whatever its name says' : ''}`;
    checking.refuse(path, { rule: 'container', asked, found, cure });
    return null;
  }
  checking.met(path, 'container', asked, asked);
  if (header.codec !== codec) {
    const found = codecName(header.codec);
    checking.refuse(path, { rule: 'codec', asked: codecName(codec), found, cure });
    return null;
  }
  checking.met(path, 'codec', codecName(codec), codecName(codec));
  const frames = header.frames;
  const damage =
    (await damageOf[container]?.(source)) ??
    (frames === null ? 'it does not say how long it is' : null);
  if (damage !== null || frames === null) {
    const found = damage ?? '';
    const again = 'Build it again, or get it again to its end.';
    checking.refuse(path, { rule: 'undamaged', asked: 'a whole file', found, cure: again });
    return null;
  }
  checking.met(path, 'undamaged', 'a whole file', 'whole');
  const loaded: LoadedSound = {
    id: idOf(path),
    file: path,
    bytes: source.size,
    checksum: crc32(await source.read(0, source.size)),
    container,
    codec,
    rateHz: header.sampleRateHz,
    channels: header.channels,
    frames,
    seconds: frames / header.sampleRateHz,
    loop: header.loop,
  };
  checkName(path, ending, checking);
  checkShape(loaded, demands, checking);
  return checking.isRefused(path) ? null : { sound: loaded, open: () => file.open() };
}

function checkName(path: string, ending: string, checking: Checking): void {
  const asked = `a name that ends in ${ending}`;
  const own = /\.[^./]*$/.exec(path)?.[0] ?? 'no ending';
  if (own === ending) return checking.met(path, 'ending', asked, own);
  const cure = `Rename it so that it ends in ${ending}.`;
  checking.refuse(path, { rule: 'ending', asked, found: own, cure });
}

function checkShape(
  { file, channels, rateHz, seconds }: LoadedSound,
  demands: SoundDemands,
  checking: Checking,
): void {
  const rules = [
    {
      rule: 'channels',
      asked: either(demands.channels.map(layoutName)),
      found: layoutName(channels),
      isMet: demands.channels.includes(channels),
      cure: `Build it as ${either(demands.channels.map(layoutName))}.`,
    },
    {
      rule: 'rate',
      asked: ratesText(demands.ratesHz),
      found: ratesText([rateHz]),
      isMet: demands.ratesHz.includes(rateHz),
      cure: `Build it at ${ratesText(demands.ratesHz)}.`,
    },
    {
      rule: 'length',
      asked: `at most ${formatTime(demands.mostSeconds, 0)}`,
      found: formatTime(seconds),
      isMet: seconds <= demands.mostSeconds,
      cure: 'Cut it shorter.',
    },
  ];
  for (const { rule, asked, found, isMet, cure } of rules) {
    if (isMet) checking.met(file, rule, asked, found);
    else checking.refuse(file, { rule, asked, found, cure });
  }
}

/** A path without its ending. */
function idOf(path: string): string {
  return path.replace(/\.[^./]*$/, '');
}
