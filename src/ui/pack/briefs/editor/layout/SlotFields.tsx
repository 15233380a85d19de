'use client';

import type { LayoutSlot } from '@/core/brief/layout';
import { Text } from '../parts';
import type { LayoutEditing } from './editing';
import { Lines } from './Lines';

/** Exact places that have to be filled. */
export function SlotFields({ editing }: { editing: LayoutEditing }) {
  const { layout, putLayout, text } = editing;
  const ending = text.files[0]?.ending ?? 'ogg';
  return (
    <Lines<LayoutSlot>
      label={['Slots', 'slot']}
      field="layout.slots"
      items={layout.slots ?? []}
      fresh={() => ({ path: `slot-${(layout.slots?.length ?? 0) + 1}.${ending}` })}
      editing={editing}
      onChange={(slots) => putLayout({ slots })}
    >
      {({ path, title, isOptional = false }, put, name) => (
        <>
          <Text
            label={`Path of ${name}`}
            value={path}
            most={240}
            className="input-xs w-48"
            onChange={(next) => put({ path: next ?? '' })}
          />
          <Text
            label={`What is heard in ${name}`}
            value={title}
            most={200}
            placeholder="what is heard there"
            className="input-xs w-56"
            onChange={(next) => put({ title: next })}
          />
          <label className="flex items-center gap-1 text-xs">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={isOptional}
              onChange={() => put({ isOptional: isOptional ? undefined : true })}
            />
            may stay empty
          </label>
        </>
      )}
    </Lines>
  );
}
