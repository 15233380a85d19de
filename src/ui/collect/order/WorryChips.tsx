import { Check } from 'lucide-react';
import type { ListedWorry, Sound } from '@/wire';
import { Popover } from '../../shared/Popover';
import { WorryPanel } from './WorryPanel';

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

/** The worries about a sound, each a chip that opens what it means and what can be done. */
export function WorryChips({ sound }: { sound: Sound }) {
  const { worries, recipeProblem } = sound;
  if (worries.length === 0 && !recipeProblem) return null;
  return (
    <ul
      className="flex max-h-10 flex-wrap gap-1 overflow-hidden"
      aria-label={`Worries about ${sound.name}`}
    >
      {recipeProblem && (
        <li
          className="border-error/60 text-error rounded-sm border px-1 text-xs leading-4"
          title={`${recipeProblem.message} ${recipeProblem.hint}`}
        >
          recipe does not fit
        </li>
      )}
      {worries.map((worry) => (
        <li key={worry.code} className="leading-none">
          <Popover
            label={`${worry.name}: ${worry.sentence}${states[worry.state]}`}
            face={
              <>
                {worry.state === 'cured' && <Check size={11} aria-hidden />}
                {worry.name}
              </>
            }
            className={`inline-flex items-center gap-0.5 rounded-sm border px-1 text-xs leading-4 ${looks[worry.state]}`}
          >
            {(close) => <WorryPanel worried={[{ sound, worry }]} onDone={close} />}
          </Popover>
        </li>
      ))}
    </ul>
  );
}
