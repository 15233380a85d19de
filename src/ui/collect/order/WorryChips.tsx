import { Check } from 'lucide-react';
import type { ListedWorry, Sound } from '@/wire';
import { Popover } from '../../shared/Popover';
import { fitting } from './fitting';
import { WorryPanel, WorryPanels } from './WorryPanel';

const looks: Record<ListedWorry['state'], string> = {
  open: 'border-warning/60 text-warning',
  cured: 'border-success/40 text-success',
  'set-aside': 'border-dashed border-secondary/60 text-soft',
};
const states: Record<ListedWorry['state'], string> = {
  open: '',
  cured: ' (cured by its recipe)',
  'set-aside': ' (set aside)',
};
const chip = 'inline-flex items-center gap-0.5 rounded-sm border px-1 text-xs leading-4';

/** The worries about a sound, each a chip that opens what it means and what can be done. */
export function WorryChips({
  sound,
  width,
  tabIndex,
}: {
  sound: Sound;
  width: number;
  tabIndex: 0 | -1;
}) {
  // Of a joined sound: why it cannot be joined anew; of others, why reading them came to nothing.
  const problem = sound.recipeProblem ?? sound.error;
  const failure = sound.join ? 'cannot be joined' : 'could not be read';
  const misfit = sound.recipeProblem ? MISFIT : failure;
  // What still needs somebody stands in front.
  const worries = [...sound.worries].sort((a, b) => rank(a) - rank(b));
  if (worries.length === 0 && !problem) return null;
  const names = [...(problem ? [misfit] : []), ...worries.map(({ name }) => name)];
  const room = Math.max(0, fitting(names, width) - (problem ? 1 : 0));
  const others = worries.slice(room);
  return (
    <ul className="flex flex-wrap gap-1" aria-label={`Worries about ${sound.name}`}>
      {problem && (
        <li
          className={`border-error/60 text-error ${chip}`}
          title={`${problem.message} ${problem.hint}`}
        >
          {misfit}
        </li>
      )}
      {worries.slice(0, room).map((worry) => (
        <li key={worry.code} className="leading-none">
          <Popover
            tabIndex={tabIndex}
            label={`${worry.name}: ${worry.sentence}${states[worry.state]}`}
            face={
              <>
                {worry.state === 'cured' && <Check size={11} aria-hidden />}
                {worry.name}
              </>
            }
            className={`${chip} ${looks[worry.state]}`}
          >
            {(close) => <WorryPanel worried={[{ sound, worry }]} onDone={close} />}
          </Popover>
        </li>
      ))}
      {others.length > 0 && (
        <li className="leading-none">
          <Popover
            tabIndex={tabIndex}
            label={`${others.length} more: ${others.map(({ name }) => name).join(', ')}`}
            face={`+${others.length}`}
            className={`${chip} border-base-300 text-soft`}
          >
            {(close) => (
              <WorryPanels kinds={others.map((worry) => [{ sound, worry }])} onDone={close} />
            )}
          </Popover>
        </li>
      )}
    </ul>
  );
}

const MISFIT = 'recipe does not fit';

function rank({ state }: ListedWorry): number {
  return state === 'open' ? 0 : 1;
}
