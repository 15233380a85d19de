'use client';

import type { BriefText } from '@/core/brief/schema';
import { tagNames, type TagName } from '@/core/marks';
import type { Editing } from './editing';
import { filled } from './filled';
import { Choice, Row, Section, Text } from './parts';

/** Which tags stay, and which are set. */
export function Tags({ editing }: { editing: Editing }) {
  const { tags = {} } = editing.text;
  const put = (change: Partial<NonNullable<BriefText['tags']>>) =>
    editing.put({ tags: filled({ ...tags, ...change }) });
  const set = tags.set ?? {};
  const setTag = (name: TagName, value: string | undefined) => {
    const next = Object.fromEntries(
      Object.entries({ ...set, [name]: value }).filter(([, text]) => text !== undefined),
    );
    put({ set: Object.keys(next).length === 0 ? undefined : next });
  };
  return (
    <Section title="Tags">
      <Row label="Of the source’s" field="tags.keep" editing={editing}>
        <Choice
          label="Which tags stay"
          value={tags.keep === undefined ? undefined : tags.keep.length === 0 ? 'none' : 'some'}
          options={{ none: 'none stays', some: 'some stay' }}
          none="all stay"
          onChange={(value) =>
            put({ keep: value === undefined ? undefined : value === 'none' ? [] : ['title'] })
          }
        />
        {tags.keep && tags.keep.length > 0 && (
          <span className="flex flex-wrap gap-x-3">
            {tagNames.map((name) => (
              <label key={name} className="flex items-center gap-1">
                <input
                  type="checkbox"
                  className="checkbox checkbox-xs checkbox-primary"
                  checked={tags.keep!.includes(name)}
                  onChange={() =>
                    put({
                      keep: tags.keep!.includes(name)
                        ? tags.keep!.filter((one) => one !== name)
                        : [...tags.keep!, name],
                    })
                  }
                />
                {name}
              </label>
            ))}
          </span>
        )}
      </Row>
      {tagNames.map((name) => (
        <Row key={name} label={`Set ${name}`} field={`tags.set.${name}`} editing={editing}>
          <Text
            label={`Set ${name}`}
            value={set[name]}
            most={400}
            placeholder="left as it is"
            className="w-72"
            onChange={(value) => setTag(name, value)}
          />
        </Row>
      ))}
    </Section>
  );
}
