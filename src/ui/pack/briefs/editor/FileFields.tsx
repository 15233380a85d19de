'use client';

import { useQuery } from '@tanstack/react-query';
import type { BriefTextFile } from '@/core/brief/schema';
import type { FormatChoice } from '@/core/formats/legality';
import type { Dial } from '@/core/formats/types';
import { call } from '../../../shared/api';
import { layout } from '../../../shared/format';
import { dialNames, dialValue } from '../../../convert/words';
import type { Editing } from './editing';
import { Choice, Numbers, Row, Several, Text } from './parts';

/** What one file of each sound has to be. */
export function FileFields({
  file,
  path,
  editing,
  isOnly,
  onChange,
}: {
  file: BriefTextFile;
  path: string;
  editing: Editing;
  isOnly: boolean;
  /** null takes the file out. */
  onChange: (file: BriefTextFile | null) => void;
}) {
  const { data: formats = [] } = useQuery({
    queryKey: ['formats'],
    queryFn: () => call<FormatChoice[]>('formats'),
    staleTime: Infinity,
  });
  const format = formats.find(({ id }) => id === file.writer);
  const put = (change: Partial<BriefTextFile>) => onChange(without({ ...file, ...change }));
  const row = { editing };
  return (
    <>
      {!isOnly && (
        <Row label="Called" field={`${path}.id`} {...row}>
          <Text
            label="What this file is called"
            value={file.id}
            most={40}
            className="w-40"
            onChange={(id) => put({ id: id ?? '' })}
          />
          <button type="button" className="btn btn-ghost btn-xs" onClick={() => onChange(null)}>
            Take it out
          </button>
        </Row>
      )}
      <Row label="Format" field={`${path}.writer`} {...row}>
        <Choice
          label="Format"
          value={file.writer}
          options={Object.fromEntries(formats.map(({ id, name }) => [id, name]))}
          // What belonged to the format that it was goes with it.
          onChange={(writer = 'wav') => onChange(asFormat(file, writer))}
        />
      </Row>
      <Row
        label="Taken as well"
        hint="Files of these formats are handed on as they are"
        field={`${path}.alsoTakes`}
        {...row}
      >
        <AlsoTakes file={file} formats={formats} onChange={(alsoTakes) => put({ alsoTakes })} />
      </Row>
      {format && format.dials.length > 0 && (
        <Row label="Made with" field={`${path}.settings`} {...row}>
          <MadeWith file={file} dials={format.dials} onChange={(settings) => put({ settings })} />
        </Row>
      )}
      {format && format.dials.some(({ name }) => name !== 'level') && (
        <Row label="Bit rate that is taken" field={`${path}.bitRatesKbps`} {...row}>
          <Numbers
            label="Bit rate"
            unit="kbit/s"
            value={file.bitRatesKbps}
            usual={Number((file.settings as { kbps?: number }).kbps ?? 128)}
            onChange={(bitRatesKbps) => put({ bitRatesKbps })}
          />
          <Choice
            label="Constant or variable"
            value={file.isConstant === undefined ? undefined : file.isConstant ? 'yes' : 'no'}
            options={{ yes: 'constant', no: 'variable' }}
            none="constant or variable"
            onChange={(value) =>
              put({ isConstant: value === undefined ? undefined : value === 'yes' })
            }
          />
        </Row>
      )}
      <Row label="Sample rate" field={`${path}.sampleRatesHz`} {...row}>
        <Numbers
          label="Sample rate"
          unit="Hz"
          value={file.sampleRatesHz}
          usual={48_000}
          onChange={(sampleRatesHz) => put({ sampleRatesHz })}
        />
      </Row>
      <Row label="Channels" field={`${path}.channels`} {...row}>
        <Several
          label="Channels"
          values={file.channels}
          options={(format?.channels ?? [1, 2]).map((count) => [count, layout(count)])}
          onChange={(channels) => put({ channels })}
        />
      </Row>
      {format?.depths && (
        <Row label="Bit depth" field={`${path}.bitDepths`} {...row}>
          <Several
            label="Bit depth"
            values={file.bitDepths}
            options={format.depths.flatMap(({ name, settings }) =>
              'bits' in settings ? [[Number(settings.bits), name] as const] : [],
            )}
            onChange={(bitDepths) => put({ bitDepths, settings: withoutBits(file.settings) })}
          />
        </Row>
      )}
      <Row label="Ending" hint="Left open: the usual one" field={`${path}.ending`} {...row}>
        <Text
          label="Ending"
          value={file.ending}
          most={16}
          className="w-28"
          placeholder={format ? `.${format.extension}` : ''}
          onChange={(ending) => put({ ending: ending?.replace(/^\./, '') })}
        />
      </Row>
    </>
  );
}

function AlsoTakes({
  file,
  formats,
  onChange,
}: {
  file: BriefTextFile;
  formats: readonly FormatChoice[];
  onChange: (ids: string[] | undefined) => void;
}) {
  const taken = file.alsoTakes ?? [];
  return (
    <>
      {taken.map((id) => (
        <button
          key={id}
          type="button"
          className="btn btn-paper btn-xs"
          title="Press to take it out"
          onClick={() => {
            const rest = taken.filter((one) => one !== id);
            onChange(rest.length === 0 ? undefined : rest);
          }}
        >
          {formats.find((one) => one.id === id)?.name ?? id} ×
        </button>
      ))}
      <select
        className="select select-sm w-48"
        aria-label="Taken as well"
        value=""
        onChange={(event) => onChange([...taken, event.target.value])}
      >
        <option value="">{taken.length === 0 ? 'nothing else' : 'one more …'}</option>
        {formats
          .filter(({ id }) => id !== file.writer && !taken.includes(id))
          .map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
      </select>
    </>
  );
}

function MadeWith({
  file,
  dials,
  onChange,
}: {
  file: BriefTextFile;
  dials: readonly Dial[];
  onChange: (settings: object) => void;
}) {
  const set = file.settings as Partial<Record<Dial['name'], number>>;
  const dial = dials.find(({ name }) => set[name] !== undefined);
  const names: readonly string[] = dials.map(({ name }) => name);
  const rest = Object.fromEntries(
    Object.entries(file.settings).filter(([name]) => !names.includes(name)),
  );
  return (
    <select
      className="select select-sm w-64"
      aria-label="Made with"
      value={dial ? `${dial.name} ${set[dial.name]}` : ''}
      onChange={(event) => {
        const [name = '', value] = event.target.value.split(' ');
        onChange(name === '' ? rest : { ...rest, [name]: Number(value) });
      }}
    >
      <option value="">as usual: {dialValue(dials[0]!, dials[0]!.usual)}</option>
      {dials.map((one) => (
        <optgroup key={one.name} label={dialNames[one.name]}>
          {[
            ...new Set([...one.values, ...(set[one.name] === undefined ? [] : [set[one.name]!])]),
          ].map((value) => (
            <option key={value} value={`${one.name} ${value}`}>
              {dialValue(one, value)}
            </option>
          ))}
        </optgroup>
      ))}
    </select>
  );
}

/** What is no longer demanded is left out, so that it reads so. */
function without(file: BriefTextFile): BriefTextFile {
  return JSON.parse(JSON.stringify(file)) as BriefTextFile;
}

function withoutBits(settings: object): object {
  return Object.fromEntries(Object.entries(settings).filter(([name]) => name !== 'bits'));
}

function asFormat(file: BriefTextFile, writer: string): BriefTextFile {
  const { id, sampleRatesHz, channels } = file;
  return without({ id, writer, settings: {}, sampleRatesHz, channels });
}
