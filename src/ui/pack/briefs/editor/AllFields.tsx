'use client';

import { nameTokens } from '@/core/pack/pattern';
import type { Editing } from './editing';
import { filled } from './filled';
import { Amount, Area, Choice, Row, Section, Text } from './parts';
import { LayoutFields } from './layout/LayoutFields';
import { Tags } from './Tags';

/** What holds for all files of a brief: limits, level, loop, names, tags, languages. */
export function AllFields({ editing }: { editing: Editing }) {
  return (
    <>
      <Limits editing={editing} />
      <Level editing={editing} />
      <Loop editing={editing} />
      <Names editing={editing} />
      <Tags editing={editing} />
      <LayoutFields editing={editing} />
      <Section title="Good to know">
        <Row label="Notes, a line each" field="notes" editing={editing}>
          <Area
            label="Notes"
            value={editing.text.notes.join('\n')}
            most={8_000}
            onChange={(text) => editing.put({ notes: text === '' ? [] : text.split('\n') })}
          />
        </Row>
      </Section>
    </>
  );
}

function Limits({ editing }: { editing: Editing }) {
  const { text, put } = editing;
  return (
    <Section title="Limits">
      <Row label="Shortest" field="leastSeconds" editing={editing}>
        <Amount
          label="Shortest"
          unit="s"
          value={text.leastSeconds}
          onChange={(leastSeconds) => put({ leastSeconds })}
        />
      </Row>
      <Row label="Longest" field="mostSeconds" editing={editing}>
        <Amount
          label="Longest"
          unit="s"
          value={text.mostSeconds}
          onChange={(mostSeconds) => put({ mostSeconds })}
        />
      </Row>
      <Row label="Largest file" field="mostBytes" editing={editing}>
        <Amount
          label="Largest file"
          unit="bytes"
          value={text.mostBytes}
          onChange={(mostBytes) => put({ mostBytes })}
        />
      </Row>
      <Row label="All files together" field="mostTotalBytes" editing={editing}>
        <Amount
          label="All files together"
          unit="bytes"
          value={text.mostTotalBytes}
          onChange={(mostTotalBytes) => put({ mostTotalBytes })}
        />
      </Row>
    </Section>
  );
}

function Level({ editing }: { editing: Editing }) {
  const { level = {} } = editing.text;
  const put = (change: Partial<typeof level>) =>
    editing.put({ level: filled({ ...level, ...change }) });
  return (
    <Section title="Level">
      <Row label="True peak at most" field="level.peakDbtp" editing={editing}>
        <Amount
          label="True peak at most"
          unit="dBTP"
          value={level.peakDbtp}
          onChange={(peakDbtp) => put({ peakDbtp })}
        />
        <Choice
          label="What is turned down"
          value={level.by}
          options={{ all: 'all of it turned down', moments: 'loud moments turned down' }}
          none="turned down as usual"
          onChange={(by) => put({ by })}
        />
      </Row>
      <Row label="Loudness" field="level.lufs" editing={editing}>
        <Amount
          label="Loudness"
          unit="LUFS, within"
          value={level.lufs}
          onChange={(lufs) => put({ lufs })}
        />
        <Amount
          label="Loudness within"
          unit="LU"
          value={level.toleranceLu}
          onChange={(toleranceLu) => put({ toleranceLu })}
        />
      </Row>
      <Row
        label="Where decoding is louder"
        hint="A lossy codec can give back more than it was given"
        field="level.isFixed"
        editing={editing}
      >
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="checkbox checkbox-xs checkbox-primary"
            checked={!level.isFixed}
            onChange={(event) => put({ isFixed: event.target.checked ? undefined : true })}
          />
          encode again, as much quieter as is needed
        </label>
      </Row>
    </Section>
  );
}

function Loop({ editing }: { editing: Editing }) {
  const { loop = {} } = editing.text;
  const put = (change: Partial<typeof loop>) =>
    editing.put({ loop: filled({ ...loop, ...change }) });
  return (
    <Section title="Loop">
      <Row label="Marked" field="loop.marked" editing={editing}>
        <Choice
          label="Where loops are marked"
          value={loop.marked}
          options={{ file: 'in the file', manifest: 'in the manifest', forbidden: 'not at all' }}
          none="open: as the source"
          onChange={(marked) => put({ marked })}
        />
      </Row>
      <Row label="Needed" field="loop.isNeeded" editing={editing}>
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="checkbox checkbox-xs checkbox-primary"
            checked={loop.isNeeded ?? false}
            onChange={(event) => put({ isNeeded: event.target.checked || undefined })}
          />
          every sound has to have one
        </label>
      </Row>
      <Row label="Least score of its seam" field="loop.leastSeamScore" editing={editing}>
        <Amount
          label="Least score of its seam"
          unit="of 100"
          value={loop.leastSeamScore}
          onChange={(leastSeamScore) => put({ leastSeamScore })}
        />
      </Row>
    </Section>
  );
}

function Names({ editing }: { editing: Editing }) {
  const { names = {}, folder, languages } = editing.text;
  const put = (change: Partial<typeof names>) =>
    editing.put({ names: filled({ ...names, ...change }) });
  return (
    <Section title="Names and folders">
      <Row label="Name" field="names.pattern" editing={editing}>
        <Text
          label="Pattern of names"
          value={names.pattern}
          most={200}
          placeholder="{name}"
          className="w-72"
          onChange={(pattern) => put({ pattern })}
        />
        <span className="text-soft w-full text-xs">
          {Object.entries(nameTokens)
            .map(([token, says]) => `{${token}}: ${says}`)
            .join(' · ')}
        </span>
      </Row>
      <Row label="Case" field="names.case" editing={editing}>
        <Choice
          label="Case"
          value={names.case}
          options={{ lower: 'lower case', upper: 'upper case' }}
          none="open: as the sound is called"
          onChange={(letters) => put({ case: letters })}
        />
      </Row>
      <Row label="Characters" field="names.characters" editing={editing}>
        <Text
          label="Characters"
          value={names.characters}
          most={200}
          placeholder="any; or a-z0-9_-"
          className="w-56"
          onChange={(characters) => put({ characters })}
        />
        <span className="text-soft text-xs">others become</span>
        <Text
          label="What others become"
          value={names.joiner}
          most={1}
          placeholder="-"
          className="w-12"
          onChange={(joiner) => put({ joiner })}
        />
      </Row>
      <Row label="Longest, with ending" field="names.longest" editing={editing}>
        <Amount
          label="Longest name"
          unit="characters"
          value={names.longest}
          onChange={(longest) => put({ longest })}
        />
      </Row>
      <Row label="Two of one name" field="names.meeting" editing={editing}>
        <Choice
          label="Two of one name"
          value={names.meeting}
          options={{ number: 'are numbered', refuse: 'are refused' }}
          none="are numbered, as usual"
          onChange={(meeting) => put({ meeting })}
        />
      </Row>
      <Row label="Folder" field="folder" editing={editing}>
        <Text
          label="Folder"
          value={folder}
          most={200}
          placeholder="all in one; or {group}"
          className="w-72"
          onChange={(value) => editing.put({ folder: value })}
        />
      </Row>
      <Row label="Languages" field="languages" editing={editing}>
        <Text
          label="Languages"
          value={languages?.join(', ')}
          most={200}
          placeholder="none; or en, de"
          className="w-72"
          onChange={(value) =>
            editing.put({ languages: value?.split(/[,;]\s*|\s+/).map((one) => one.trim()) })
          }
        />
      </Row>
    </Section>
  );
}
