import type { Arrival } from '@/wire';
import { call } from '../../shared/api';
import { plural, size } from '../../shared/format';
import { useProject } from '../../shared/project';
import { useAction } from '../../shared/useAction';
import { Path } from './Path';

/** What somebody has to decide: files that changed since they came in, and archives inside archives. */
export function Decisions({
  differing,
  offered,
}: {
  differing: readonly Arrival[];
  offered: readonly Arrival[];
}) {
  const { project } = useProject();
  const { run, busy } = useAction();
  const decide = (arrivals: readonly Arrival[], decision: string) => () =>
    void run(() =>
      call(`projects/${project.id}/intakes/decisions`, 'POST', {
        arrivals: arrivals.map(({ id }) => id),
        decision,
      }),
    );
  const button = (label: string, title: string, onClick: () => void) => (
    <button className="btn btn-paper btn-xs" title={title} disabled={busy} onClick={onClick}>
      {label}
    </button>
  );
  const choices = (arrivals: readonly Arrival[]) => (
    <span className="inline-flex gap-1.5">
      {button(
        'Replace',
        'The sound here gets the new bytes; its recipe and where it goes stay',
        decide(arrivals, 'replace'),
      )}
      {button('Add as new', 'Both stay, side by side', decide(arrivals, 'add'))}
      {button('Keep the old', 'The file that came is let go', decide(arrivals, 'keep'))}
    </span>
  );
  return (
    <>
      {differing.length > 0 && (
        <div>
          <h3 className="text-soft text-xs font-semibold">To decide</h3>
          {differing.length > 1 && (
            <p className="flex flex-wrap items-center gap-2">
              All {plural(differing.length, 'changed file')}: {choices(differing)}
            </p>
          )}
          <ul className="space-y-1">
            {differing.map((arrival) => (
              <li key={arrival.id} className="flex flex-wrap items-center gap-2">
                <span>
                  <Path path={arrival.path} /> has other bytes than the file of that name that is
                  here.
                </span>
                {choices([arrival])}
              </li>
            ))}
          </ul>
        </div>
      )}
      {offered.map((arrival) => (
        <p key={arrival.id} className="flex flex-wrap items-center gap-2">
          <span>
            <Path path={arrival.path} />{' '}
            {arrival.error
              ? `has not been unpacked to its end: ${arrival.error.message} ${arrival.error.hint}`
              : `is a zip archive of ${size(arrival.bytes)}.`}
          </span>
          {button('Unpack it too', 'Bring in what is inside', decide([arrival], 'unpack'))}
          {button('Leave it out', 'It is let go', decide([arrival], 'keep'))}
        </p>
      ))}
    </>
  );
}
