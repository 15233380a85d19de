import { MemorySink } from '@/core/bytes/source';
import { makeReference, usualReference } from '@/core/compare/reference';
import { writeSound } from '@/core/formats/write';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { answer } from '../../answer';

/** A reference signal as a WAV file of 24 bits. */
export const GET = answer(async ({ params }) => {
  const { rateHz } = usualReference;
  const channels = makeReference(params['name'] ?? '');
  const sink = new MemorySink();
  await writeSound(pcmFromChannels(channels, rateHz), 'wav', { bits: 24 }, sink);
  return new Response(sink.bytes() as Uint8Array<ArrayBuffer>, {
    headers: { 'Content-Type': 'audio/wav', 'Cache-Control': 'no-store' },
  });
});
