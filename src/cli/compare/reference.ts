import { dirname, extname } from 'node:path';
import { makeReference } from '@/core/compare/reference';
import { writers } from '@/core/formats';
import { writeSound } from '@/core/formats/write';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { formatTime } from '@/core/time';
import { layoutName } from '@/core/tradeNames';
import { putInPlace, writeTemporary } from '@/server/files/bytes';
import { numberOption, rateOption, wrong } from '../convert/numbers';
import { harmlessName, printOn, say } from '../output';
import { STATUS } from '../status';
import { dropTemporary, temporaryIn } from '../disk/temporaries';
import { fileError } from '../disk/trouble';
import type { ReferenceOptions } from './options';

/** Formats that keep every sample. */
const keeping = ['wav', 'aiff', 'flac'];

/** Writes a reference signal. @throws wrong-call */
export async function runReference(name: string, options: ReferenceOptions): Promise<number> {
  const { out, overwrite = false } = options;
  const ending = extname(out).slice(1).toLowerCase();
  const kind = writers.find(({ id, extension }) => keeping.includes(id) && extension === ending);
  if (!kind) {
    throw wrong(
      `A reference signal is not written as "${out}".`,
      'Name a file that ends in .wav, .aiff or .flac: other formats would change it.',
    );
  }
  const rateHz = rateOption('rate', options.rate)!;
  const seconds = numberOption('seconds', options.seconds)!;
  const channels = makeReference(name, { seconds, rateHz });
  const temporary = temporaryIn(dirname(out));
  try {
    await writeTemporary(temporary, (sink) =>
      writeSound(pcmFromChannels(channels, rateHz), kind.id, { bits: 24 }, sink),
    );
    await putInPlace(temporary, out, overwrite);
  } catch (error) {
    const { message, hint } = fileError(error);
    say(`${out}: ${message} ${hint}`);
    return STATUS.someFailed;
  } finally {
    await dropTemporary(temporary);
  }
  const length = formatTime(channels[0]!.length / rateHz);
  await printOn(
    `${harmlessName(out)}  ${name}, ${rateHz} Hz, ${layoutName(channels.length)}, ${length}`,
  );
  return STATUS.done;
}
