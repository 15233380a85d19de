'use client';

import { useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { create } from 'zustand';
import type { Call } from '@/core/pack/calls/calls';
import { pickedPitch, pickedVariant } from '@/core/pack/calls/pick';
import { readSpan, type Listenable } from '@/player/source';
import { lineQuery } from '../../shared/lines';
import { number } from '../../shared/format';
import { useProject } from '../../shared/project';
import { cue, play } from '../../strip/listening';

/** How often each variant of each call was picked while one listened, by "call sound"; and which was last. */
interface Picks {
  counts: Readonly<Record<string, number>>;
  last: Readonly<Record<string, string>>;
}

export const usePicks = create<Picks>(() => ({ counts: {}, last: {} }));

export function pickKey(callId: string, soundId: number): string {
  return `${callId} ${soundId}`;
}

/** Hears a call as the game would play it: a variant by its odds, with level and pitch. */
export function useHearCall(briefId: string) {
  const { project, cells, sounds } = useProject();
  const client = useQueryClient();
  return async (call: Call): Promise<void> => {
    const variant = pickedVariant(call, Math.random());
    const sound = sounds.find(({ id }) => id === variant?.soundId);
    const cell = cells.find((one) => one.briefId === briefId && one.soundId === sound?.id);
    if (!sound || !cell) {
      toast.error('There is nothing to hear in this call.', { description: 'Give it a variant.' });
      return;
    }
    // It may have been built a moment ago, of which this page has not heard yet.
    const query = { ...lineQuery(project.id, cell), staleTime: 0 };
    const line = await client.fetchQuery(query);
    const output = line?.outputs.find(({ upToDate, verification }) => upToDate && verification);
    const facts = output?.verification?.facts;
    if (!output || !facts) {
      toast.error(`“${sound.name}” is not built yet.`, {
        description: 'Build it, then it is heard as the game plays it.',
      });
      return;
    }
    const pitch = pickedPitch(call, Math.random());
    const gain = 10 ** (call.levelDb / 20);
    const file: Listenable = {
      key: `output-${output.id}`,
      rateHz: facts.sampleRateHz,
      channels: facts.channels,
      frames: facts.frames,
      url: `/api/outputs/${output.id}/pcm`,
    };
    note(call.id, sound.id, pitch);
    const listening = new AbortController();
    cue(`${call.id}: ${sound.name}`, [
      {
        ...file,
        key: `call-${call.id}-${performance.now()}`,
        content: String(output.sha256),
        label: `× ${number(pitch, 2)}, ${number(call.levelDb)} dB`,
        // Played at another rate it is as much faster and higher.
        rateHz: Math.round(facts.sampleRateHz * pitch),
        loudness: null,
        samples: async (start, frames) =>
          (await readSpan(file, start, frames, listening.signal)).map((channel) =>
            channel.map((sample) => sample * gain),
          ),
        toSource: (frame) => frame,
        fromSource: (frame) => frame,
      },
    ]);
    play({ frame: 0, range: null });
  };
}

function note(callId: string, soundId: number, pitch: number): void {
  const key = pickKey(callId, soundId);
  usePicks.setState(({ counts, last }) => ({
    counts: { ...counts, [key]: (counts[key] ?? 0) + 1 },
    last: { ...last, [callId]: `× ${number(pitch, 2)}` },
  }));
}
