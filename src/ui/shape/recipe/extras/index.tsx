import type { Sound } from '@/wire';
import { Ceiling } from './Ceiling';
import { Clicks } from './Clicks';
import { Correlation } from './Correlation';
import { Hear } from './Hear';
import { Relabelled } from './Relabelled';
import type { Extra, ExtraProps } from './types';

/** By kind of step; most need none. */
const extras: Readonly<Record<string, Extra>> = {
  channels: Correlation,
  declick: Clicks,
  gain: Ceiling,
  relabel: Relabelled,
};

/** What is to be known of some kinds of steps before one is content with them. */
export function StepExtras({
  isOpen,
  ...props
}: Omit<ExtraProps, 'sound'> & { sound: Sound | null; isOpen: boolean }) {
  const { sound } = props;
  const Extra = extras[props.walked.step.kind];
  if (!sound) return null;
  return (
    <>
      {Extra && <Extra {...props} sound={sound} />}
      {isOpen && (
        <div className="mt-1 flex gap-1.5">
          <Hear {...props} sound={sound} when="before" />
          <Hear {...props} sound={sound} when="after" />
        </div>
      )}
    </>
  );
}
