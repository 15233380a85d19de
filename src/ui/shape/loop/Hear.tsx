import { Headphones, Square } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { plural } from '../../shared/format';
import { follow, placeNow, redirect, toggle, useListening } from '../../strip/listening';
import { courseFor, hearings, type Hearing } from './courses';
import type { Looping } from './looping';

/** Hearing the loop in three ways; what is heard goes on without a break while its edges are moved. */
export function Hear({ looping }: { looping: Looping }) {
  const { made } = looping;
  const { hearing, hear } = useHearing(looping);
  const passes = usePasses(hearing !== null);
  return (
    <section aria-label="Hear the loop" className="flex flex-wrap items-center gap-2">
      {(Object.keys(hearings) as Hearing[]).map((one) => {
        const isOn = hearing === one;
        const { name, tip } = hearings[one];
        return (
          <button
            key={one}
            className={`btn btn-sm ${isOn ? 'btn-primary' : 'btn-paper'}`}
            aria-label={name}
            aria-pressed={isOn}
            disabled={!made}
            title={`${tip} (${keys[one]})`}
            onClick={() => hear(one)}
          >
            {isOn ? (
              <Square size={13} fill="currentColor" aria-hidden />
            ) : (
              <Headphones size={14} aria-hidden />
            )}
            {name}
          </button>
        );
      })}
      <span role="status" className="text-soft text-xs" data-testid="passes">
        {hearing !== null && passes > 0 && `${plural(passes, 'pass')}`}
      </span>
    </section>
  );
}

const keys: Readonly<Record<Hearing, string>> = { seam: 'S', whole: 'D', through: 'I' };

/** What is heard of the loop now, and how to hear something else of it. */
function useHearing({ made }: Pick<Looping, 'made'>) {
  const [chosen, setChosen] = useState<Hearing>('seam');
  const latest = useRef(chosen);
  const isHeard = useListening(
    ({ playing, current, course }) => playing && course !== null && current === made?.version.key,
  );
  // Edges that are moved are heard as they are.
  useEffect(() => {
    const { current, course } = useListening.getState();
    if (!made || course === null || current !== made.version.key) return;
    redirect(courseFor(latest.current, made.parts, made.version.rateHz));
  }, [made]);
  return {
    hearing: isHeard ? chosen : null,
    hear(next: Hearing) {
      if (!made) return;
      if (isHeard && next === chosen) return toggle();
      latest.current = next;
      setChosen(next);
      follow(made.version.key, courseFor(next, made.parts, made.version.rateHz));
    },
  };
}

/** How often what is played around has begun. */
function usePasses(isOn: boolean): number {
  const [passes, setPasses] = useState(0);
  useEffect(() => {
    if (!isOn) return setPasses(0);
    const timer = setInterval(() => setPasses(placeNow()?.pass ?? 0), 100);
    return () => clearInterval(timer);
  }, [isOn]);
  return passes;
}
