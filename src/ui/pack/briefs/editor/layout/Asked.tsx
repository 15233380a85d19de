'use client';

import type { LayoutField } from '@/core/brief/layout';
import { Text } from '../parts';
import type { LayoutEditing } from './editing';
import { Lines } from './Lines';

/** What is asked of people for each pack, for templates to say. */
export function Asked({ editing }: { editing: LayoutEditing }) {
  const { layout, putLayout } = editing;
  return (
    <Lines<LayoutField>
      label={['Asked of people', 'field']}
      field="layout.fields"
      items={layout.fields ?? []}
      fresh={() => ({
        id: `field${(layout.fields?.length ?? 0) + 1}`,
        title: 'A field',
        value: 'unknown',
      })}
      editing={editing}
      onChange={(fields) => putLayout({ fields })}
    >
      {({ id, title, value }, put, name) => (
        <>
          <Text
            label={`Name of ${name}`}
            value={id}
            most={40}
            className="input-xs w-28"
            onChange={(next) => put({ id: next ?? '' })}
          />
          <Text
            label={`Title of ${name}`}
            value={title}
            most={100}
            className="input-xs w-44"
            onChange={(next) => put({ title: next ?? '' })}
          />
          <span className="text-soft text-xs">usually</span>
          <Text
            label={`Usual value of ${name}`}
            value={String(value)}
            most={400}
            className="input-xs w-32"
            // What reads as a number is one.
            onChange={(next = '') =>
              put({ value: /^-?\d+(\.\d+)?$/.test(next) ? Number(next) : next })
            }
          />
        </>
      )}
    </Lines>
  );
}
