import type { ReactNode } from 'react';

/** A station that is not there yet says what it will be for, and nothing else. */
function Ahead({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="mx-auto max-w-2xl px-6 py-16">
      <h1 className="font-serif text-3xl">{title}</h1>
      <p className="text-soft mt-2">This station is not built yet.</p>
      <div className="mt-6 space-y-3 text-base leading-relaxed">{children}</div>
    </div>
  );
}

export function RehearseAhead() {
  return (
    <Ahead title="Rehearse">
      <p>
        Here finished packs will be loaded into small stand-ins of their destinations, to hear that
        every sound is found under its name, starts when it should, and loops without a gap.
      </p>
      <p className="text-soft">
        Until then, packs can be downloaded from Pack; every file in them has been decoded again and
        measured.
      </p>
    </Ahead>
  );
}
