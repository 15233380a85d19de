'use client';

import Link from 'next/link';
import { useState } from 'react';
import type { Sound } from '@/wire';
import { ConvertButton } from '../convert/ConvertButton';
import { plural } from '../shared/format';
import { Popover } from '../shared/Popover';
import { useProject } from '../shared/project';
import { SendTo } from '../shared/SendTo';
import { carry, pathFor } from '../shape/chosen';
import { chooseOnly, invertChoice } from './choice';
import { CompareFacts } from './order/CompareFacts';
import { GroupForm, LabelForm, LanguageForm, NoteForm } from './order/OrderForms';
import { RenameDialog } from './order/RenameDialog';
import { worryKinds } from './order/WorryFilter';
import { WorryPanels } from './order/WorryPanel';
import { totalText } from './table/GroupLine';
import type { Entry } from './table/useSoundTable';

/** What is chosen, how much it is, and what can be done with all of it. */
export function SelectionBar({
  chosen,
  listed,
  all,
  isRenaming,
  onRenaming,
  onRemove,
}: {
  chosen: readonly Entry[];
  listed: readonly number[];
  all: readonly Sound[];
  isRenaming: boolean;
  onRenaming: (isRenaming: boolean) => void;
  onRemove: () => void;
}) {
  const [isComparing, setComparing] = useState(false);
  const { project } = useProject();
  const sounds = chosen.map(({ sound }) => sound);
  const ids = sounds.map(({ id }) => id);
  const pair = chosen.length === 2 ? ([chosen[0]!, chosen[1]!] as const) : null;
  const kinds = worryKinds(sounds);
  const open = kinds.reduce((sum, { worried }) => sum + worried.length, 0);
  const form = (label: string, Form: typeof GroupForm) => (
    <Popover label={label} face={`${label}…`} className="btn btn-paper btn-xs">
      {(close) => <Form sounds={sounds} all={all} onDone={close} />}
    </Popover>
  );
  return (
    <div
      role="toolbar"
      aria-label="Chosen sounds"
      className="border-base-300 bg-base-100 flex min-h-10 flex-wrap items-center gap-x-4 gap-y-1.5 border border-t-0 px-4 py-1.5"
    >
      {chosen.length === 0 ? (
        <p className="text-soft text-xs">
          Choose sounds to work on them: Shift takes a range, Ctrl one more, Ctrl+A all that are
          listed.
        </p>
      ) : (
        <>
          <p role="status" className="font-semibold">
            {totalText(chosen)} chosen
          </p>
          <div className="flex flex-wrap items-center gap-1.5">
            <ConvertButton ids={ids} className="btn btn-primary btn-xs" />
            <Link
              className="btn btn-paper btn-xs"
              title="One recipe for all chosen sounds (S)"
              href={pathFor(project.id, 'several', ids)}
              onClick={() => carry(ids)}
            >
              Shape them…
            </Link>
            <Link
              className="btn btn-paper btn-xs"
              title="Loops for all chosen sounds, with their seams before and after (O)"
              href={pathFor(project.id, 'loops', ids)}
              onClick={() => carry(ids)}
            >
              Loop…
            </Link>
            <Link
              className="btn btn-paper btn-xs"
              title="One sound out of the chosen ones (J)"
              href={pathFor(project.id, 'join', ids)}
              onClick={() => carry(ids)}
            >
              Join…
            </Link>
            <button className="btn btn-paper btn-xs" onClick={() => onRenaming(true)}>
              Rename…
            </button>
            {form('Group', GroupForm)}
            {form('Label', LabelForm)}
            {form('Note', NoteForm)}
            {form('Language', LanguageForm)}
            <SendTo soundIds={ids} />
            {open > 0 && (
              <Popover
                label={`Worries of the chosen sounds (${open})`}
                face={`Worries (${open})…`}
                className="btn btn-paper btn-xs"
              >
                {(close) => (
                  <WorryPanels kinds={kinds.map(({ worried }) => worried)} onDone={close} />
                )}
              </Popover>
            )}
            {pair && (
              <button className="btn btn-paper btn-xs" onClick={() => setComparing(true)}>
                Side by side
              </button>
            )}
            <button className="btn btn-paper btn-xs" onClick={onRemove}>
              Take out
            </button>
          </div>
        </>
      )}
      <div className="ml-auto flex gap-1.5">
        <button className="btn btn-ghost btn-xs" onClick={() => chooseOnly(listed)}>
          {listed.length === 1
            ? 'The listed sound'
            : `All ${plural(listed.length, 'listed sound')}`}
        </button>
        <button className="btn btn-ghost btn-xs" onClick={() => invertChoice(listed)}>
          Invert
        </button>
      </div>
      <RenameDialog
        sounds={sounds}
        all={all}
        isOpen={isRenaming && sounds.length > 0}
        onClose={() => onRenaming(false)}
      />
      <CompareFacts pair={pair} isOpen={isComparing} onClose={() => setComparing(false)} />
    </div>
  );
}
