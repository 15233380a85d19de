'use client';

import type { Editing } from '../editing';
import { filled } from '../filled';
import { Choice, Row, Section, Text } from '../parts';
import { Asked } from './Asked';
import { IconFields } from './IconFields';
import { SlotFields } from './SlotFields';
import type { LayoutEditing } from './editing';
import { TextFields } from './TextFields';

/** How the files lie together, and what lies beside them. */
export function LayoutFields({ editing }: { editing: Editing }) {
  const { layout = {} } = editing.text;
  const all: LayoutEditing = {
    ...editing,
    layout,
    putLayout: (change) => editing.put({ layout: filled({ ...layout, ...change }) }),
  };
  const { putLayout } = all;
  return (
    <Section title="Layout of the pack">
      <Row label="Everything in a folder" field="layout.inFolder" editing={editing}>
        <Text
          label="Everything in a folder"
          value={layout.inFolder}
          most={240}
          placeholder="none: at the root"
          className="w-72"
          onChange={(inFolder) => putLayout({ inFolder })}
        />
      </Row>
      <SlotFields editing={all} />
      {layout.slots && layout.slots.length > 0 && (
        <Row label="Sounds without a slot" field="layout.others" editing={editing}>
          <Choice
            label="Sounds without a slot"
            value={layout.others}
            options={{ beside: 'lie beside, under their names', refuse: 'are refused' }}
            none="lie beside, as usual"
            onChange={(others) => putLayout({ others })}
          />
        </Row>
      )}
      <TextFields editing={all} />
      <Row label="Characters of ids" field="layout.calls" editing={editing}>
        <Text
          label="Characters of ids"
          value={layout.calls?.characters}
          most={200}
          placeholder="a-z0-9_/-"
          className="w-72"
          onChange={(characters) => putLayout({ calls: filled({ ...layout.calls, characters }) })}
        />
        <span className="text-soft text-xs">of calls, where the pack has an index of them</span>
      </Row>
      <IconFields editing={all} />
      <Asked editing={all} />
    </Section>
  );
}
