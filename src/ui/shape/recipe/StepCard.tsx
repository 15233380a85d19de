'use client';

import { ArrowDown, ArrowUp, CircleAlert, Pencil, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { kindOf, type WalkedStep } from '@/core/recipe/recipe';
import type { Step } from '@/core/recipe/types';
import { formatTime, kilohertz, layout } from '../../shared/format';
import { Grip, SortableLine } from '../../shared/Sortable';
import { Tool } from '../../shared/Tool';
import { StepEffect } from './StepEffect';
import { StepExtras } from './extras';
import { StepForm } from './StepForm';
import type { RecipeOf } from './recipeOf';

/** One step: what it does, what that did to length and level, and everything that can be done with it. */
export function StepCard({
  id,
  place,
  of,
  walked,
  isLast,
  onChange,
  onRemove,
  onMove,
}: {
  /** What tells it from others, wherever it is moved. */
  id: number;
  /** From 1. */
  place: number;
  of: RecipeOf;
  walked: WalkedStep;
  isLast: boolean;
  onChange: (step: Step) => void;
  onRemove: () => void;
  onMove: (by: -1 | 1) => void;
}) {
  const [isOpen, setOpen] = useState(false);
  const { step, before, sentence, problem } = walked;
  const kind = kindOf(step);
  const name = kind?.name ?? 'Unknown step';
  const canEdit = kind !== undefined && kind.fields.length > 0;
  return (
    <SortableLine id={id} label={`${place}. ${name}`} isOff={!step.on} className="group py-2">
      <div className="flex items-start gap-1.5">
        <Grip label={`Move step ${place}`} />
        <input
          type="checkbox"
          className="checkbox checkbox-xs checkbox-primary mt-1"
          checked={step.on}
          aria-label={`Step ${place} is on`}
          title={step.on ? 'Switch this step off' : 'Switch this step on'}
          onChange={(event) => onChange({ ...step, on: event.target.checked })}
        />
        <div className="min-w-0 flex-1">
          <p className={step.on ? 'font-semibold' : 'text-soft line-through'}>
            {sentence[0]!.toUpperCase() + sentence.slice(1)}
          </p>
          {problem && of.sound && (
            <p className="text-error mt-0.5 flex items-start gap-1">
              <CircleAlert size={14} className="mt-0.5 shrink-0" aria-hidden />
              <span>
                {problem.message} {problem.hint} Until then nothing is built of this sound.
              </span>
            </p>
          )}
          {!problem && step.on && <Changed walked={walked} />}
          {of.sound && !problem && step.on && (
            <StepEffect sound={of.sound} recipe={of.recipe} at={place - 1} />
          )}
        </div>
        <div className="flex shrink-0 flex-wrap justify-end opacity-70 group-hover:opacity-100 group-focus-within:opacity-100">
          {canEdit && (
            <Tool
              isSmall
              label={`Set step ${place}`}
              pressed={isOpen}
              onClick={() => setOpen(!isOpen)}
            >
              <Pencil size={14} />
            </Tool>
          )}
          <Tool
            isSmall
            label={`Step ${place} earlier`}
            disabled={place === 1}
            onClick={() => onMove(-1)}
          >
            <ArrowUp size={14} />
          </Tool>
          <Tool isSmall label={`Step ${place} later`} disabled={isLast} onClick={() => onMove(1)}>
            <ArrowDown size={14} />
          </Tool>
          <Tool isSmall label={`Take step ${place} out`} onClick={onRemove}>
            <Trash2 size={14} />
          </Tool>
        </div>
      </div>
      {kind && isOpen && (
        <div className="mt-1.5 ml-10">
          <StepForm kind={kind} step={step} before={before} onChange={onChange} />
        </div>
      )}
      {kind && of.sound && (step.on || kind.beginsOff) && !problem && (
        <div className="ml-10">
          <StepExtras
            of={of}
            sound={of.sound}
            walked={walked}
            at={place - 1}
            onChange={onChange}
            isOpen={isOpen}
          />
        </div>
      )}
    </SortableLine>
  );
}

/** What a step did to length, rate and channels. */
function Changed({ walked: { before, after } }: { walked: WalkedStep }) {
  const time = (shape: typeof before) => formatTime(shape.frames / shape.rateHz);
  const parts = [
    time(before) !== time(after) && `${time(before)} → ${time(after)}`,
    before.rateHz !== after.rateHz && `${kilohertz(before.rateHz)} → ${kilohertz(after.rateHz)}`,
    before.channelCount !== after.channelCount &&
      `${layout(before.channelCount)} → ${layout(after.channelCount)}`,
  ].filter(Boolean);
  return parts.length > 0 ? <p className="text-soft text-xs">{parts.join(' · ')}</p> : null;
}
