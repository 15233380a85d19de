import { Headphones } from 'lucide-react';
import Link from 'next/link';
import { useState } from 'react';
import { partsOf } from '@/core/loop/parts';
import { clicks, type SeamFigures } from '@/core/loop/seam';
import { formatTime, number } from '../../shared/format';
import { MiddleCut } from '../../shared/MiddleCut';
import { useProject } from '../../shared/project';
import { follow, toggle, useListening } from '../../strip/listening';
import { useCue } from '../../strip/useCue';
import { courseFor } from '../loop/courses';
import { seamOf, type Look, type Looped, type Seams } from './looks';

/** Every chosen sound with its loop and its seam, before and after; heard line by line. */
export function LoopTable({ looks, seams }: { looks: readonly Look[]; seams: Seams }) {
  const hear = useHearSeam();
  return (
    <section aria-label="Their seams" className="min-w-0 overflow-x-auto">
      <table className="w-full">
        <thead className="text-soft text-left text-xs">
          <tr>
            <th className="pb-1 font-semibold">Sound</th>
            <th className="pb-1 font-semibold">Loop</th>
            <th className="pb-1 pl-4 font-semibold">Seam before</th>
            <th className="pb-1 pl-4 font-semibold">after</th>
          </tr>
        </thead>
        <tbody>
          {looks.map((look) => (
            <Line key={look.sound.id} look={look} seams={seams} hear={hear} />
          ))}
        </tbody>
      </table>
    </section>
  );
}

type Hear = ReturnType<typeof useHearSeam>;

function Line({ look, seams, hear }: { look: Look; seams: Seams; hear: Hear }) {
  const { project } = useProject();
  const { sound, before, after, problem } = look;
  const loop = (after ?? before)?.marks.loop;
  const rateHz = (after ?? before)?.shape.rateHz ?? 1;
  return (
    <tr className="border-base-300 border-t align-top">
      <td className="max-w-72 py-1">
        <Link
          className="hover:underline"
          href={`/p/${project.id}/shape/${sound.id}/loop`}
          title={`The loop of ${sound.name}`}
        >
          <MiddleCut text={sound.name} />
        </Link>
        {problem && (
          <span className="text-error block text-xs">
            {problem.message} {problem.hint}
          </span>
        )}
      </td>
      <td className="py-1 whitespace-nowrap">
        {loop && !problem
          ? `${formatTime(loop.startFrame / rateHz)} to ${formatTime(loop.endFrame / rateHz)}`
          : '–'}
      </td>
      <Seam look={look} of={before} when="before" seam={seamOf(seams, sound, before)} hear={hear} />
      <Seam look={look} of={after} when="after" seam={seamOf(seams, sound, after)} hear={hear} />
    </tr>
  );
}

function Seam({
  look: { sound },
  of,
  when,
  seam,
  hear,
}: {
  look: Look;
  of: Looped | null;
  when: 'before' | 'after';
  /** undefined until it is measured. */
  seam: SeamFigures | null | undefined;
  hear: Hear;
}) {
  if (!of) return <td className="text-soft py-1 pl-4">–</td>;
  const isOn = hear.isHeard(sound.id, of);
  return (
    <td className="py-0.5 pl-4 whitespace-nowrap">
      <span
        className={`inline-block w-8 text-right font-semibold ${seam && clicks(seam) ? 'text-warning' : ''}`}
      >
        {seam === undefined ? '…' : seam ? number(seam.score, 0) : '–'}
      </span>
      <button
        className={`btn btn-xs ml-2 ${isOn ? 'btn-primary' : 'btn-paper'}`}
        aria-label={`Hear the seam of ${sound.name} ${when}`}
        aria-pressed={isOn}
        onClick={() => hear.play(sound, of)}
      >
        <Headphones size={12} aria-hidden />
      </button>
      {seam && clicks(seam) && <span className="text-warning ml-2 text-xs">clicks</span>}
    </td>
  );
}

/** Plays around the seam of a sound behind a recipe. */
function useHearSeam() {
  const cue = useCue();
  const isHeard = useListening((strip) => strip.playing && strip.course !== null);
  const [playing, setPlaying] = useState<string | null>(null);
  const contentOf = (soundId: number, { recipe }: Looped) =>
    `${soundId} ${JSON.stringify(recipe.steps)}`;
  return {
    isHeard: (soundId: number, of: Looped) => isHeard && playing === contentOf(soundId, of),
    play(sound: Look['sound'], of: Looped) {
      const content = contentOf(sound.id, of);
      if (isHeard && playing === content) return toggle();
      setPlaying(content);
      const versions = cue(sound, { recipe: of.recipe });
      const key = `shaped-${sound.id}`;
      const version = versions.find((one) => one.key === key) ?? versions[0];
      if (version) follow(version.key, courseFor('seam', partsOf(of.marks), of.shape.rateHz));
    },
  };
}
