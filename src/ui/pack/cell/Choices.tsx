'use client';

import { monoChoices, type Choices, type ClippingChoice } from '@/core/brief/choices';
import { USUAL_CEILING_DBTP } from '@/core/recipe/steps/normalise';
import type { Brief } from '@/core/brief/schema';
import type { Finding } from '@/core/brief/types';
import type { PackLine } from '@/wire';
import { number } from '../../shared/format';
import { OneOf } from '../../shared/Tool';
import { useDraft } from '../../shared/useDraft';
import { useSending } from '../../shared/useSending';

export const monoNames = { mix: 'Mix both', left: 'Keep left', right: 'Keep right' };

export const clippingNames: Readonly<Record<ClippingChoice, string>> = {
  limit: 'Limit loud moments',
  lower: 'Turn all down',
  keep: 'Let it clip',
};

/** What a person decides for one sound at one destination. */
export function LineChoices({ line, brief }: { line: PackLine; brief: Brief }) {
  const { choose } = useSending();
  const { soundId } = line.assignment;
  const put = (choices: Choices) => void choose([soundId], brief, choices);
  return (
    <div className="mt-1 space-y-1.5">
      <MonoChoice line={line} onChoose={put} />
      <ClippingChoice line={line} onChoose={put} />
      <LevelChoice line={line} onChoose={put} />
    </div>
  );
}

interface ChoiceProps {
  line: PackLine;
  onChoose: (choices: Choices) => void;
}

/** How a stereo sound becomes mono, where the destination takes no other. */
function MonoChoice({ line, onChoose }: ChoiceProps) {
  const needsMono = line.findings.some(
    ({ requirement, verdict, found }) =>
      requirement === 'channels' && verdict !== 'met' && verdict !== 'cannot' && found === 'stereo',
  );
  if (!needsMono) return null;
  const isOpen = line.findings.some(
    ({ requirement, verdict }) => requirement === 'channels' && verdict === 'decide',
  );
  const { mono = isOpen ? '' : 'mix' } = line.assignment.choices;
  return (
    <Choice label="To mono" isOpen={isOpen}>
      <OneOf
        label="To mono"
        title="How both channels become one"
        options={Object.fromEntries(monoChoices.map((one) => [one, monoNames[one]]))}
        value={mono as string}
        onChange={(value) => onChoose({ mono: value as (typeof monoChoices)[number] })}
      />
    </Choice>
  );
}

/** What becomes of what lies above full scale. */
function ClippingChoice({ line, onChoose }: ChoiceProps) {
  const { choices } = line.assignment;
  const open = clippingOf(line);
  if (!open && !choices.clipping) return null;
  const { ceilingDbtp = USUAL_CEILING_DBTP } = choices;
  const isTurnedDown = choices.clipping === 'limit' || choices.clipping === 'lower';
  const further = Math.floor(ceilingDbtp - (open?.builtPeakDbfs ?? 0));
  return (
    <Choice label="Above full scale" isOpen={open !== null}>
      <OneOf
        label="Above full scale"
        title={`Down to ${number(ceilingDbtp)} dBTP`}
        options={clippingNames}
        value={(choices.clipping ?? '') as ClippingChoice}
        onChange={(clipping) => onChoose({ clipping })}
      />
      {isTurnedDown && open?.builtPeakDbfs != null && further >= -24 && (
        <button
          className="btn btn-paper btn-xs mt-1"
          title="Its codec makes it louder again"
          onClick={() => onChoose({ ceilingDbtp: further })}
        >
          Turn down to {number(further)} dBTP
        </button>
      )}
    </Choice>
  );
}

/** Whether clipping waits for a decision; after building, with the loudest peak of what came of it. */
function clippingOf({ findings, outputs }: PackLine): { builtPeakDbfs: number | null } | null {
  const isOpen = (list: readonly Finding[]) =>
    list.some(({ requirement, verdict }) => requirement === 'full-scale' && verdict === 'decide');
  if (isOpen(findings)) return { builtPeakDbfs: null };
  const peaks = outputs.flatMap(({ upToDate, verdict, verification }) =>
    upToDate && verdict && isOpen(verdict.findings) ? [verification?.facts.peakDbfs ?? 0] : [],
  );
  return peaks.length > 0 ? { builtPeakDbfs: Math.max(...peaks) } : null;
}

/** Brings about once more a level that the conversion changes. */
function LevelChoice({ line, onChoose }: ChoiceProps) {
  const { levelBehind = false } = line.assignment.choices;
  // Ticked as soon as it is pressed, also while the server does not know of it yet.
  const [ticked, setTicked] = useDraft<boolean>(levelBehind);
  if (!line.findings.some(({ requirement }) => requirement === 'level')) return null;
  return (
    <label className="flex items-start gap-1.5 text-xs">
      <input
        type="checkbox"
        className="checkbox checkbox-xs checkbox-primary"
        checked={ticked ?? levelBehind}
        onChange={(event) => {
          setTicked(event.target.checked);
          onChoose({ levelBehind: event.target.checked });
        }}
      />
      Normalise behind the conversion
    </label>
  );
}

function Choice({
  label,
  isOpen,
  children,
}: {
  label: string;
  isOpen: boolean;
  children: React.ReactNode;
}) {
  return (
    <div>
      <span className={`text-xs font-semibold ${isOpen ? 'text-warning' : 'text-soft'}`}>
        {label}
        {isOpen && ': choose'}
      </span>
      {children}
    </div>
  );
}
