'use client';

import { useState } from 'react';
import { placesOfPlay, rooms, type Brief } from '@/core/brief/schema';
import { OneOf } from '../../shared/Tool';

type Place = keyof typeof placesOfPlay;
type Room = keyof typeof rooms;

interface Answers {
  place: Place | '';
  loops: 'yes' | 'no' | '';
  room: Room | '';
}

/** Finds the brief by three questions: where it plays, whether it loops, how much room there is. */
export function Questions({
  briefs,
  onShow,
}: {
  briefs: readonly Brief[];
  onShow: (brief: Brief) => void;
}) {
  const [answers, setAnswers] = useState<Answers>({ place: '', loops: '', room: '' });
  const set = (change: Partial<Answers>) => setAnswers({ ...answers, ...change });
  const fitting = briefs.filter((brief) => suits(brief, answers));
  const isAnswered = answers.place !== '' && answers.loops !== '' && answers.room !== '';
  return (
    <section aria-label="Which one do I need?" className="border-base-300 bg-base-100 border p-4">
      <h2 className="mb-2 font-serif text-lg">Which one do I need?</h2>
      <div className="space-y-2">
        <Question label="Where will it play?">
          <OneOf
            label="Where will it play?"
            title="Where will it play?"
            options={placesOfPlay}
            value={answers.place as Place}
            onChange={(place) => set({ place })}
          />
        </Question>
        <Question label="Does it repeat without a gap?">
          <OneOf
            label="Does it repeat without a gap?"
            title="Whether sounds there loop"
            options={{ yes: 'it loops', no: 'it ends' }}
            value={answers.loops as 'yes' | 'no'}
            onChange={(loops) => set({ loops })}
          />
        </Question>
        <Question label="How much room is there?">
          <OneOf
            label="How much room is there?"
            title="How much room is there?"
            options={rooms}
            value={answers.room as Room}
            onChange={(room) => set({ room })}
          />
        </Question>
      </div>
      {(answers.place || answers.loops || answers.room) && (
        <p className="mt-3" role="status">
          {fitting.length === 0
            ? 'None fits all three: take the nearest, copy it, and change what is wrong.'
            : isAnswered && fitting.length === 1
              ? 'This one:'
              : 'These fit:'}
        </p>
      )}
      <ul className="mt-3 grid gap-x-6 gap-y-2 md:grid-cols-2">
        {fitting.map((brief) => (
          <li key={brief.id}>
            <button
              className="link link-primary font-semibold no-underline hover:underline"
              onClick={() => onShow(brief)}
            >
              {brief.title}
            </button>
            <p className="text-soft text-sm">{brief.purpose}</p>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Question({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
      <span className="w-52 shrink-0">{label}</span>
      {children}
    </div>
  );
}

function suits({ suits }: Brief, { place, loops, room }: Answers): boolean {
  if (!suits) return place === '' && loops === '' && room === '';
  return (
    (place === '' || suits.places.includes(place)) &&
    // Where loops work, what ends works as well.
    (loops !== 'yes' || suits.loops) &&
    (room === '' || suits.rooms.includes(room))
  );
}
