'use client';

import { CircleHelp, CircleX, Download, Play, ShieldCheck, TriangleAlert } from 'lucide-react';
import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import type { Brief } from '@/core/brief/schema';
import type { Verification } from '@/core/convert';
import type { Estimate } from '@/core/oneOff/estimate';
import type { Output, PackLine, Sound } from '@/wire';
import { useMaking } from '../making';
import { Verified } from './Verified';
import { expectedText } from '../../convert/words';
import { call } from '../../shared/api';
import { count, decibels, formatTime, kilohertz, layout, plural, size } from '../../shared/format';
import { MiddleCut } from '../../shared/MiddleCut';
import { play } from '../../strip/listening';
import { useCue } from '../../strip/useCue';

/** The files made for one line, newest of each kind: bytes before → after, and what was verified. */
export function Outputs({ line, brief, sound }: { line: PackLine; brief: Brief; sound: Sound }) {
  const { outputs } = line;
  if (outputs.length === 0) {
    return (
      <p className="text-soft">
        Not built yet. {!line.obstacle && <Expected brief={brief} sound={sound} />}
      </p>
    );
  }
  return (
    <ul className="min-w-0 space-y-2.5">
      {outputs.map((output) => (
        <li key={output.id} className="min-w-0">
          <OneOutput output={output} sound={sound} />
        </li>
      ))}
    </ul>
  );
}

/** What it will come to: "About 160 kB will come of 317 kB." */
function Expected({ brief, sound }: { brief: Brief; sound: Sound }) {
  const { data } = useQuery({
    queryKey: ['expected', sound.id, brief.id, sound.revision],
    queryFn: ({ signal }) =>
      call<Estimate>(
        `sounds/${sound.id}/assignments/${brief.id}/estimate`,
        'GET',
        undefined,
        signal,
      ),
    staleTime: Infinity,
    retry: false,
  });
  if (!data) return null;
  const text = expectedText({ least: data.bytes, most: data.bytes, isExact: data.isExact });
  const files = brief.files.length > 1 ? `${plural(brief.files.length, 'file')}, ` : '';
  const what = `${files}${text}`;
  return (
    <>
      {what[0]!.toUpperCase()}
      {what.slice(1)} will come of {size(sound.bytes)}.
    </>
  );
}

function OneOutput({ output, sound }: { output: Output; sound: Sound }) {
  if (output.state === 'queued' || output.state === 'running') return <Building output={output} />;
  if (output.state === 'failed' || output.state === 'cancelled') {
    return (
      <p className={output.state === 'failed' ? 'text-error' : 'text-soft'}>
        <CircleX size={15} aria-hidden className="mr-1.5 inline" />
        <span className="font-semibold">{output.name}</span>:{' '}
        {output.state === 'cancelled'
          ? 'cancelled.'
          : `${output.error?.message} ${output.error?.hint}`}
      </p>
    );
  }
  return <Finished output={output} sound={sound} />;
}

function Building({ output }: { output: Output }) {
  const { progress, cancel, busy } = useMaking(output.encodingId);
  return (
    <div className="flex items-center gap-3">
      <MiddleCut text={output.name} />
      {output.state === 'queued' ? (
        <span className="text-soft">waiting</span>
      ) : (
        <>
          <progress
            className="progress progress-primary w-32"
            value={progress}
            max={1}
            aria-label={`Building ${output.name}`}
          />
          <span>{Math.round(progress * 100)} %</span>
        </>
      )}
      {cancel && (
        <button className="btn btn-ghost btn-xs" disabled={busy} onClick={() => void cancel()}>
          Cancel
        </button>
      )}
    </div>
  );
}

function Finished({ output, sound }: { output: Output; sound: Sound }) {
  const cue = useCue();
  const { verification } = output;
  if (!verification) return null;
  const { facts } = verification;
  const ratio = sound.bytes / facts.bytes;
  const listen = () => {
    cue(sound, { key: `output-${output.id}` });
    play({ frame: 0, range: null });
  };
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-3">
        <MiddleCut text={output.name} className="font-semibold" />
        <span className="whitespace-nowrap">
          {size(sound.bytes)} → <strong>{size(facts.bytes)}</strong>{' '}
          <span className="text-soft" title={`${sound.bytes} → ${facts.bytes} bytes`}>
            {ratio >= 1
              ? `÷ ${ratio.toFixed(1)}, ${((100 * facts.bytes) / sound.bytes).toFixed(1)} %`
              : `× ${(1 / ratio).toFixed(1)}, larger than its source`}
          </span>
        </span>
        <span className="ml-auto flex">
          <button
            className="btn btn-ghost btn-sm btn-square"
            aria-label={`Play ${output.name}`}
            title={
              output.upToDate
                ? 'Play the result; V compares it with the source'
                : 'Build it again to hear it'
            }
            disabled={!output.upToDate}
            onClick={listen}
          >
            <Play size={14} fill="currentColor" />
          </button>
          <a
            className="btn btn-ghost btn-sm btn-square"
            aria-label={`Download ${output.name}`}
            title="Download"
            href={`/api/outputs/${output.id}/file?download`}
            download={output.name}
          >
            <Download size={15} />
          </a>
        </span>
      </div>
      <Proof output={output} verification={verification} />
      {output.warnings.map(({ message }) => (
        <Remark key={message} icon={TriangleAlert} className="text-warning">
          {message}
        </Remark>
      ))}
    </>
  );
}

/** What was measured on the finished file, and what its brief says of it. */
function Proof({ output, verification }: { output: Output; verification: Verification }) {
  const { facts, framesFound, framesExpected } = verification;
  if (!output.upToDate) {
    return (
      <Remark icon={TriangleAlert} className="text-warning">
        Out of date: the sound was changed after this was built.
      </Remark>
    );
  }
  const unmet = output.verdict?.findings.filter(({ verdict }) => verdict !== 'met') ?? [];
  return (
    <>
      <Remark icon={ShieldCheck} className="text-soft">
        Decoded again: {count(framesFound)} of {plural(framesExpected, 'frame')},{' '}
        {formatTime(facts.seconds)}, {kilohertz(facts.sampleRateHz)}, {layout(facts.channels)}, peak{' '}
        {decibels(facts.peakDbfs)} dBFS.{output.verdict?.accepted && ' The brief is met.'}
      </Remark>
      {output.verdict && <Verified verdict={output.verdict} />}
      {unmet.map(({ sentence, verdict }) => (
        <Remark
          key={sentence}
          icon={verdict === 'decide' ? CircleHelp : CircleX}
          className={verdict === 'decide' ? 'text-warning' : 'text-error'}
        >
          {verdict === 'decide' ? 'Needs a decision' : 'The brief is not met'}: {sentence}
        </Remark>
      ))}
      {output.remark && (
        <Remark icon={TriangleAlert} className="text-warning">
          {output.remark}
        </Remark>
      )}
    </>
  );
}

function Remark({
  icon: Icon,
  className,
  children,
}: {
  icon: typeof ShieldCheck;
  className: string;
  children: ReactNode;
}) {
  const sign = Icon === ShieldCheck ? 'text-success' : '';
  return (
    <p className={`${className} flex gap-1.5 text-xs`}>
      <Icon size={14} aria-hidden className={`${sign} shrink-0`} />
      <span>{children}</span>
    </p>
  );
}
