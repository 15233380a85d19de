import { madeVoice } from '@/core/compare/reference/voice';
import { phoneSpeaker } from './phone';
import type { Recording } from './recorder';

/** A take as a phone would have filmed it, and what has become of the filter's sounds in it. */
export interface Take extends Recording {
  seconds: number;
  isMicrophoneOn: boolean;
  /** RMS of the filter's sounds as they played, and as they are in the take, in dBFS; null for silence. */
  played: number | null;
  kept: number | null;
}

/** From the phone's own loudspeaker around its edge into its microphone, which keeps voices and takes the rest back. */
const BACK_DB = -14;
const VOICE_GAIN = 0.35;
const VOICE_HZ = 165;

/**
 * What ends up in a film. With the microphone off it is what the filter plays, as it is. With it on it is the voice,
 * and of the filter what the microphone hears of the phone's loudspeaker: nothing while that is muted.
 */
export async function takeOf(
  { own, given }: { own: Recording; given: Recording },
  isMicrophoneOn: boolean,
): Promise<Take> {
  const { rateHz } = own;
  const kept = isMicrophoneOn ? await throughTheRoom(given) : own;
  const frames = kept.channels[0]!.length;
  const voice = isMicrophoneOn ? madeVoice(rateHz, frames, VOICE_HZ, 0.9) : null;
  const channels = kept.channels.map((channel) =>
    voice ? channel.map((x, i) => x + VOICE_GAIN * voice[i]!) : channel,
  );
  return {
    rateHz,
    channels,
    seconds: frames / rateHz,
    isMicrophoneOn,
    played: rmsDb(own),
    kept: rmsDb(kept),
  };
}

async function throughTheRoom({ rateHz, channels }: Recording): Promise<Recording> {
  const frames = Math.max(1, channels[0]?.length ?? 0);
  const context = new OfflineAudioContext(1, frames, rateHz);
  const buffer = context.createBuffer(channels.length, frames, rateHz);
  channels.forEach((channel, c) => buffer.copyToChannel(channel, c));
  const source = context.createBufferSource();
  source.buffer = buffer;
  const phone = phoneSpeaker(context);
  const back = context.createGain();
  back.gain.value = 10 ** (BACK_DB / 20);
  source.connect(phone.input);
  phone.output.connect(back).connect(context.destination);
  source.start();
  const rendered = await context.startRendering();
  return { rateHz, channels: [rendered.getChannelData(0)] };
}

function rmsDb({ channels }: Recording): number | null {
  let [sum, count] = [0, 0];
  for (const channel of channels) {
    for (const x of channel) sum += x * x;
    count += channel.length;
  }
  return sum > 0 ? 10 * Math.log10(sum / count) : null;
}
