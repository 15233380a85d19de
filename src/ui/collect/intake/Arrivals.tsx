'use client';

import { X } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { leftOutNames } from '@/core/collect/arrivals';
import type { Arrival, ArrivalOutcome, Intake } from '@/wire';
import { call } from '../../shared/api';
import { count, plural, size } from '../../shared/format';
import { MiddleCut } from '../../shared/MiddleCut';
import { useProject } from '../../shared/project';
import { Tool } from '../../shared/Tool';
import { useAction } from '../../shared/useAction';
import { Decisions } from './Decisions';
import { Path } from './Path';
import { RawForm } from './RawForm';
import { cancelOne, cancelSending, hasFile, resume, sendAgain, useSending } from './sending';

/** What is on its way in, and what became of everything that was brought in last. */
export function Arrivals() {
  const { intake } = useProject();
  return (
    <>
      <Sending />
      {intake && <Summary intake={intake} />}
    </>
  );
}

/** Progress of what this page sends: in total, and of each file under way. */
function Sending() {
  const { current, files, bytes, stalled } = useSending();
  const { project } = useProject();
  const { run } = useAction();
  if (files.done === files.of && stalled === 0) return null;
  const sent = current.reduce((sum, one) => sum + one.sent, bytes.done);
  const cancel = () => {
    cancelSending();
    void run(() => call(`projects/${project.id}/intakes`, 'PATCH', { end: 'cancel' }));
  };
  return (
    <section
      aria-label="Coming in"
      className="border-base-300 bg-base-100 rounded-box mb-3 border px-4 py-2.5"
    >
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <progress
          className="progress progress-primary w-48"
          value={sent}
          max={bytes.of}
          aria-label="Sent"
        />
        <span>
          {count(files.done)} of {plural(files.of, 'file')} sent, {size(sent)} of {size(bytes.of)}
        </span>
        {stalled > 0 && (
          <span className="text-error">
            Bijou does not answer.{' '}
            <button className="link" onClick={resume}>
              Try again
            </button>
          </span>
        )}
        <button className="btn btn-ghost btn-xs ml-auto" onClick={cancel}>
          Cancel
        </button>
      </div>
      <ul className="text-soft mt-1 flex flex-wrap gap-x-6 text-xs">
        {current.map((one) => (
          <li key={one.arrivalId} className="flex max-w-72 items-center gap-2">
            <progress
              className="progress w-12"
              value={one.sent}
              max={one.bytes}
              aria-label={`Sent of ${one.path}`}
            />
            <MiddleCut text={one.path} />
            <Tool
              isSmall
              label={`Do not bring in ${one.path}`}
              onClick={() => {
                cancelOne(one.arrivalId);
                void run(() => call(`arrivals/${one.arrivalId}`, 'DELETE'));
              }}
            >
              <X size={12} />
            </Tool>
          </li>
        ))}
      </ul>
    </section>
  );
}

const words: [outcome: ArrivalOutcome, text: (n: number) => string][] = [
  ['added', (n) => `${count(n)} added`],
  ['already', (n) => `${count(n)} here already`],
  ['replaced', (n) => `${count(n)} replaced`],
  ['reading', (n) => `${count(n)} being read`],
  ['unpacking', (n) => `${plural(n, 'archive')} being unpacked`],
  ['waiting', (n) => `${count(n)} not here yet`],
  ['differs', (n) => `${count(n)} to decide`],
  ['left-out', (n) => `${count(n)} left out`],
  ['failed', (n) => `${count(n)} failed`],
  ['cancelled', (n) => `${count(n)} cancelled`],
];

function Summary({ intake }: { intake: Intake }) {
  const { project } = useProject();
  const { files, stalled } = useSending();
  const { run } = useAction();
  const { counts, leftOut, shown } = intake;
  const isBusy = files.done < files.of || stalled > 0;
  const of = (outcome: ArrivalOutcome) => shown.filter((arrival) => arrival.outcome === outcome);
  const parts = words.flatMap(([outcome, text]) =>
    counts[outcome] ? [text(counts[outcome])] : [],
  );
  const isUnderWay = Boolean(counts.reading ?? counts.unpacking) || isBusy;
  const hasTrouble = Boolean(counts.failed);
  // What wants somebody stands on the left, what need only be known on the right.
  const toSettle =
    counts.differs ?? counts.offered ?? counts.failed ?? (isBusy ? 0 : counts.waiting);
  const toKnow = counts.already ?? counts['left-out'];
  return (
    <section
      aria-label="What was brought in"
      className={`border-base-300 bg-base-100 rounded-box mb-3 max-h-[40vh] shrink-0 overflow-y-auto border border-l-4 px-4 py-2.5 ${
        hasTrouble ? 'border-l-error' : 'border-l-primary'
      }`}
    >
      <div className="flex items-center gap-3">
        <h2 className="font-semibold">Brought in: {parts.join(', ')}</h2>
        <button
          className="btn btn-ghost btn-xs ml-auto"
          disabled={isUnderWay}
          title={isUnderWay ? 'It is still going on' : 'Put this away'}
          onClick={() =>
            run(() => call(`projects/${project.id}/intakes`, 'PATCH', { end: 'dismiss' }))
          }
        >
          <X size={13} /> Dismiss
        </button>
      </div>
      <div
        className={`mt-1 grid gap-x-10 gap-y-2 ${toSettle && toKnow ? 'lg:grid-cols-[3fr_2fr]' : ''}`}
      >
        <div className="space-y-2 empty:hidden">
          <Decisions differing={of('differs')} offered={of('offered')} />
          <Listing title="Failed" all={counts.failed} arrivals={of('failed')}>
            {(arrival) => <Failed arrival={arrival} />}
          </Listing>
          {!isBusy && (
            <Listing title="Did not arrive" all={counts.waiting} arrivals={of('waiting')}>
              {({ path }) => (
                <>
                  <Path path={path} />: sending it was interrupted. Bring it in again.
                </>
              )}
            </Listing>
          )}
        </div>
        <div className="space-y-2 empty:hidden">
          <Listing title="Here already" all={counts.already} arrivals={of('already')}>
            {({ path, soundName }) => (
              <>
                <Path path={path} /> is here already as “{soundName}”: the bytes are the same.
              </>
            )}
          </Listing>
          <LeftOut groups={leftOut} />
        </div>
      </div>
    </section>
  );
}

const FEW = 5;

/** The arrivals of one outcome: the first few, and the others when they are asked for. */
function Listing({
  title,
  all = 0,
  arrivals,
  children,
}: {
  title: string;
  all: number | undefined;
  arrivals: readonly Arrival[];
  children: (arrival: Arrival) => ReactNode;
}) {
  const [isOpen, setOpen] = useState(false);
  if (arrivals.length === 0) return null;
  const listed = isOpen ? arrivals : arrivals.slice(0, FEW);
  return (
    <div>
      <h3 className="text-soft text-xs font-semibold">{title}</h3>
      <ul className="space-y-0.5">
        {listed.map((arrival) => (
          <li key={arrival.id}>{children(arrival)}</li>
        ))}
      </ul>
      {all > listed.length && (
        <p className="text-soft text-xs">
          {isOpen ? (
            `and ${count(all - listed.length)} more`
          ) : (
            <button className="link" onClick={() => setOpen(true)}>
              and {count(all - listed.length)} more
            </button>
          )}
        </p>
      )}
    </div>
  );
}

/** Faults that need not be the file's: sending it once more may help. */
const passing = new Set(['disk', 'internal', 'cut-off']);

function Failed({ arrival: { id, path, error } }: { arrival: Arrival }) {
  return (
    <>
      <Path path={path} />: {error?.message} <span className="text-soft">{error?.hint}</span>{' '}
      {error && passing.has(error.code) && hasFile(id) && (
        <button className="link link-primary" onClick={() => sendAgain(id)}>
          Send it again
        </button>
      )}
      {error?.code === 'not-audio' && hasFile(id) && <RawForm arrivalId={id} />}
    </>
  );
}

function LeftOut({ groups }: { groups: Intake['leftOut'] }) {
  if (groups.length === 0) return null;
  return (
    <div>
      <h3 className="text-soft text-xs font-semibold">Left out</h3>
      <ul>
        {groups.map(({ reason, count: n, examples }) => {
          const { one, why } = leftOutNames[reason];
          return (
            <li key={reason}>
              <span className="font-semibold">{plural(n, one)}</span>.{' '}
              <span className="text-soft">
                {why} {examples.join(', ')}
                {n > examples.length && ' …'}
              </span>
            </li>
          );
        })}
      </ul>
    </div>
  );
}
