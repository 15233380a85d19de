'use client';

import { Check, Play } from 'lucide-react';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useEffectEvent, useState } from 'react';
import type { Brief } from '@/core/brief/schema';
import type { OfferedRemedy, PackLine, Sound, Tryout } from '@/wire';
import { call } from '../../shared/api';
import { size } from '../../shared/format';
import { useAction } from '../../shared/useAction';
import { useSending } from '../../shared/useSending';
import { cue, play } from '../../strip/listening';
import { versionsOf } from '../../strip/versions';

/** What would make a file fit that is too big: each can be heard before it is taken. */
export function TooBig({ line, brief, sound }: { line: PackLine; brief: Brief; sound: Sound }) {
  const { choose } = useSending();
  const isTooBig = line.outputs.some(
    ({ upToDate, verdict }) =>
      upToDate &&
      verdict?.findings.some((one) => one.requirement === 'bytes' && one.verdict !== 'met'),
  );
  const path = `sounds/${sound.id}/assignments/${brief.id}`;
  const { data: remedies } = useQuery({
    queryKey: ['fitting', sound.id, brief.id, sound.revision],
    queryFn: ({ signal }) => call<OfferedRemedy[]>(`${path}/fitting`, 'GET', undefined, signal),
    enabled: isTooBig,
    staleTime: Infinity,
    retry: false,
  });
  if (!isTooBig) return null;
  const isMany = brief.files.length > 1;
  return (
    <section aria-label="What would fit">
      <h3 className="text-soft mb-1 text-xs font-semibold">What would fit</h3>
      {!remedies && <p className="text-soft">Looking for what would fit …</p>}
      <ul className="space-y-1">
        {remedies?.map((remedy) => (
          <li key={`${remedy.fileId} ${remedy.label}`} className="flex items-center gap-2">
            <span className="min-w-0 flex-1">
              {isMany && (
                <span className="text-soft mr-1.5 text-xs uppercase">{remedy.fileId}</span>
              )}
              {remedy.label}
              <span className="text-soft">
                {' '}
                · {remedy.isExact ? '' : 'about '}
                {size(remedy.bytes)}
                {!remedy.fits && ', still too big'}
              </span>
            </span>
            <Hear path={path} remedy={remedy} sound={sound} />
            <button
              className="btn btn-paper btn-xs"
              title="Takes it for this sound here; then build again"
              onClick={() => void choose([sound.id], brief, remedy.choices)}
            >
              <Check size={12} /> Take it
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Makes a remedy's file and plays it, beside the sound as it is. */
function Hear({ path, remedy, sound }: { path: string; remedy: OfferedRemedy; sound: Sound }) {
  const { run } = useAction();
  const [id, setId] = useState<number | null>(null);
  const { data } = useQuery({
    queryKey: ['tryout', id],
    queryFn: () => call<Tryout>(`tryouts/${id}`),
    enabled: id !== null,
    refetchInterval: ({ state }) => (isOpen(state.data) ? 250 : false),
    staleTime: 0,
  });
  const facts = data?.facts;
  const isReady = data?.state === 'done' && facts != null;
  const hear = () => {
    if (!facts || !sound.facts) return;
    const versions = versionsOf(sound, { lines: [], briefs: [] });
    cue(
      sound.name,
      [
        ...versions,
        {
          key: `tryout-${data!.id}`,
          content: String(data!.sha256),
          label: remedy.label,
          rateHz: facts.sampleRateHz,
          channels: facts.channels,
          frames: facts.frames,
          loudness: facts.lufs ?? facts.rmsDbfs,
          url: `/api/tryouts/${data!.id}/pcm`,
          toSource: (frame) => (frame * sound.facts!.sampleRateHz) / facts.sampleRateHz,
          fromSource: (frame) =>
            Math.min(facts.frames, (frame * facts.sampleRateHz) / sound.facts!.sampleRateHz),
        },
      ],
      `tryout-${data!.id}`,
    );
    play({ frame: 0, range: null });
  };
  const hearNow = useEffectEvent(hear);
  // As soon as it is there it is heard: that is what was asked for.
  useEffect(() => {
    if (isReady) hearNow();
  }, [isReady, id]);
  return (
    <button
      className="btn btn-paper btn-xs"
      disabled={id !== null && isOpen(data)}
      onClick={() =>
        isReady
          ? hear()
          : run(async () => {
              const made = await call<{ id: number }>(`${path}/tryouts`, 'POST', {
                file: remedy.fileId,
                choices: remedy.choices,
              });
              setId(made.id);
            })
      }
    >
      <Play size={11} fill="currentColor" /> {id !== null && isOpen(data) ? 'Making …' : 'Hear'}
    </button>
  );
}

function isOpen(tryout: Tryout | undefined): boolean {
  return !tryout || tryout.state === 'queued' || tryout.state === 'running';
}
