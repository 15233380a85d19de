import type { ByteSource } from '@/core/bytes/source';
import { BijouError, errorFacts } from '@/core/errors';
import { openSound } from '@/core/formats/open';
import { hostById } from '@/core/host';
import type { OpenSound } from '@/core/host/kind';
import { MOST_BYTES } from '@/core/host/limits';
import { inFolder, type FoundPack } from '@/core/host/pack';
import { rehearse, rehearseZip, type Rehearsed } from '@/core/host/rehearse';
import { collectChannels } from '@/core/pcm/pcm';
import type { Brought, DecodedSound, HostAnswer, HostQuestion, LoadedPack } from './messages';

/**
 * Looks into packs, and decodes what is in them, away from the page: packs come from anywhere, and whatever one of them
 * does to its reader, the page goes on.
 */

// The page's types know a worker only from outside.
const inside = globalThis as unknown as {
  onmessage: ((event: MessageEvent<HostQuestion & { id: number }>) => void) | null;
  postMessage(message: HostAnswer, transfer?: Transferable[]): void;
};

let sounds: ReadonlyMap<string, OpenSound> = new Map();

inside.onmessage = ({ data }) => void answer(data);

async function answer(question: HostQuestion & { id: number }): Promise<void> {
  const { id } = question;
  try {
    if (question.does === 'load') {
      const { open, ...loaded } = await load(question.hostId, question.brought);
      sounds = new Map(open.map((one) => [one.sound.file, one]));
      inside.postMessage({ id, value: loaded satisfies LoadedPack });
    } else {
      const value = await decode(question.file);
      inside.postMessage(
        { id, value },
        value.channels.map(({ buffer }) => buffer),
      );
    }
  } catch (error) {
    inside.postMessage({ id, error: errorFacts(error) });
  }
}

async function load(hostId: string, brought: Brought): Promise<Rehearsed> {
  const host = hostById(hostId);
  switch (brought.kind) {
    case 'folder':
      return rehearse(host, foundFiles(brought.name, brought.files));
    case 'zip':
      return rehearseZip(host, brought.name, blobSource(brought.zip));
    case 'address': {
      const zip = await fetched(brought.address);
      const { name, folder } = brought;
      return rehearseZip(host, name, blobSource(zip), (pack) => inFolder(pack, folder));
    }
  }
}

async function fetched(address: string): Promise<Blob> {
  const response = await fetch(address).catch(() => null);
  if (response?.ok) return response.blob();
  throw new BijouError(
    'not-found',
    'That pack is not there any more.',
    'Choose another one, or make it again.',
  );
}

function foundFiles(name: string, files: readonly { path: string; file: Blob }[]): FoundPack {
  return {
    name,
    form: 'folder',
    files: files.map(({ path, file }) => ({
      path,
      bytes: file.size,
      open: async () => blobSource(file),
    })),
  };
}

function blobSource(blob: Blob): ByteSource {
  return {
    size: blob.size,
    async read(offset, length) {
      try {
        return new Uint8Array(await blob.slice(offset, offset + length).arrayBuffer());
      } catch {
        throw unreadable();
      }
    },
  };
}

function unreadable(): BijouError {
  return new BijouError(
    'not-found',
    'It cannot be read any more: it was changed or moved meanwhile.',
    'Drop the pack again.',
  );
}

/** All samples of a sound that was taken in. */
async function decode(file: string): Promise<DecodedSound> {
  const found = sounds.get(file);
  if (!found) throw new BijouError('not-found', `There is no sound ${file}.`, 'Load the pack.');
  const { frames, channels, rateHz } = found.sound;
  if (frames * channels * 4 > MOST_BYTES) {
    throw new BijouError('too-large', `${file} is too long to be played here.`, 'Cut it shorter.');
  }
  const reader = await openSound(await found.open());
  const decoded = await collectChannels(reader.pcm());
  return { rateHz, channels: decoded as DecodedSound['channels'] };
}
