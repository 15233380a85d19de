import { TriangleAlert } from 'lucide-react';
import { type ReactNode } from 'react';
import { loopManner } from '@/core/marks';
import type { ListedFacts } from '@/core/measure/probe';
import type { Sound } from '@/wire';
import { count, decibels, formatTime, kilohertz, number, plural } from '../shared/format';
import { SpectrumPicture } from './SpectrumPicture';

/** Everything that was measured on a source, in groups, with its spectrum and what to worry about. */
export function Facts({ sound }: { sound: Sound }) {
  const { facts, worries } = sound;
  if (!facts) return null;
  return (
    <section aria-label="Facts" className="border-base-300 mt-6 border-t pt-4">
      <h2 className="font-serif text-xl">What it is</h2>
      {worries.length > 0 && (
        <ul className="mt-2 space-y-1">
          {worries.map(({ code, sentence }) => (
            <li key={code} className="flex items-start gap-1.5">
              <TriangleAlert size={15} className="text-warning mt-0.5 shrink-0" aria-hidden />
              {sentence}
            </li>
          ))}
        </ul>
      )}
      <div className="mt-3 flex flex-wrap gap-x-12 gap-y-5">
        <Group title="Levels" rows={levels(facts)} />
        <Group title="Contents" rows={contents(facts)} />
        {extras(facts).length > 0 && <Group title="In the file" rows={extras(facts)} />}
        <SpectrumPicture sound={sound} facts={facts} />
      </div>
    </section>
  );
}

type Row = [name: string, value: ReactNode];

function Group({ title, rows }: { title: string; rows: readonly Row[] }) {
  return (
    <div>
      <h3 className="text-soft mb-1 text-xs font-semibold">{title}</h3>
      <dl className="grid grid-cols-[auto_auto] gap-x-4 gap-y-0.5">
        {rows.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-soft">{name}</dt>
            <dd className="max-w-80 break-words">{value}</dd>
          </div>
        ))}
      </dl>
    </div>
  );
}

function levels(facts: ListedFacts): Row[] {
  const { lufs, loudnessRangeLu, correlation, clippedRuns, clippedPlaces, sampleRateHz } = facts;
  const first = clippedPlaces[0];
  const rows: Row[] = [
    ['Sample peak', `${decibels(facts.peakDbfs)} dBFS`],
    ['True peak', `${decibels(facts.truePeakDbtp)} dBTP`],
    ['RMS', `${decibels(facts.rmsDbfs)} dBFS`],
    ['Loudness', lufs === null ? 'none: too short or too quiet' : `${decibels(lufs)} LUFS`],
  ];
  if (loudnessRangeLu !== null) rows.push(['Loudness range', `${number(loudnessRangeLu)} LU`]);
  if (correlation !== null) rows.push(['Correlation', number(correlation, 2)]);
  rows.push(['DC offset', `${number(facts.dcOffset * 100, 2)} %`]);
  rows.push([
    'Clipped',
    first
      ? `${plural(clippedRuns, 'place')}, first at ${formatTime(first.startFrame / sampleRateHz)}`
      : 'nowhere',
  ]);
  return rows;
}

function contents(facts: ListedFacts): Row[] {
  const rows: Row[] = [
    ['Silence in front', `${number(facts.headSilenceSeconds, 3)} s`],
    ['Silence behind', `${number(facts.tailSilenceSeconds, 3)} s`],
  ];
  if (facts.bandwidthHz !== null) rows.push(['Bandwidth', kilohertz(facts.bandwidthHz)]);
  if (facts.usedBits !== null && facts.bitDepth !== null) {
    rows.push(['Bits used', `${facts.usedBits} of ${facts.bitDepth}`]);
  }
  if (facts.speakers && facts.channels > 2) rows.push(['Speakers', facts.speakers.join(' ')]);
  if (facts.channels > 1) rows.push(['Channels alike', facts.identicalChannels ? 'yes' : 'no']);
  return rows;
}

function extras({ tags, loop, seam, markers, addedFrames }: ListedFacts): Row[] {
  const rows: Row[] = Object.entries(tags).map(([name, text]) => [name, text]);
  if (loop) {
    const span = `frames ${count(loop.startFrame)} to ${count(loop.endFrame)}`;
    rows.push(['loop', [span, ...loopManner(loop)].join(', ')]);
  }
  if (seam) rows.push(['its seam', `${number(seam.score, 0)} of 100`]);
  if (markers.length > 0) rows.push(['markers', count(markers.length)]);
  if (addedFrames.head + addedFrames.tail > 0) {
    rows.push([
      'codec adds',
      `${plural(addedFrames.head, 'frame')} in front, ${count(addedFrames.tail)} behind`,
    ]);
  }
  return rows;
}
