import { Download } from 'lucide-react';
import { useState } from 'react';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { usualListening, type ListeningWish } from '@/core/loop/listening';
import type { HandoverWish } from '@/core/loop/handover';
import { changeSentence } from '@/core/oneOff/change';
import type { OneOffFile, OneOffSet } from '@/wire';
import { call } from '../../shared/api';
import { AmountField } from '../../shared/AmountField';
import { Dialog } from '../../shared/Dialog';
import { formatTime, plural, size } from '../../shared/format';
import { MiddleCut } from '../../shared/MiddleCut';
import { useAction } from '../../shared/useAction';
import { useWorkbench } from '../workbench';

const contents = {
  set: 'pieces, listening copy and cue sheet',
  listening: 'only the listening copy',
} as const;
const copies: Record<string, { name: string; form: HandoverWish['listeningForm'] }> = {
  mp3: { name: 'MP3, 320 kbit/s', form: undefined },
  m4a: { name: 'M4A, 256 kbit/s', form: { writer: 'm4a', settings: { kbps: 256 }, isUsual: true } },
  opus: {
    name: 'Opus, 160 kbit/s',
    form: { writer: 'ogg-opus', settings: { kbps: 160 }, isUsual: true },
  },
  flac: { name: 'FLAC', form: { writer: 'flac', settings: {} } },
  wav: { name: 'WAV', form: { writer: 'wav', settings: {} } },
};

/** The whole set in one action: what is wanted, then its files. */
export function HandoverSheet({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  const { sound } = useWorkbench();
  return (
    <Dialog title={`Hand over “${sound.name}”`} isOpen={isOpen} onClose={onClose} width="max-w-2xl">
      <Sheet onClose={onClose} />
    </Dialog>
  );
}

function Sheet({ onClose }: { onClose: () => void }) {
  const { sound } = useWorkbench();
  const client = useQueryClient();
  const { run, busy } = useAction();
  const queryKey = ['handover', sound.id];
  const { data: set } = useQuery({
    queryKey,
    queryFn: () => call<OneOffSet | null>(`sounds/${sound.id}/handover`),
    refetchInterval: ({ state }) => (state.data && isOpenSet(state.data) ? 400 : false),
  });
  const [what, setWhat] = useState<keyof typeof contents>('set');
  const [bits, setBits] = useState<16 | 24>((sound.facts?.bitDepth ?? 16) > 16 ? 24 : 16);
  const [copy, setCopy] = useState('mp3');
  const [times, setTimes] = useState<ListeningWish>(usualListening);
  const { tags = {} } = sound.facts ?? {};
  const [title, setTitle] = useState(tags.title ?? sound.name);
  const [artist, setArtist] = useState(tags.artist ?? '');
  const make = () =>
    void run(async () => {
      const made = await call<OneOffSet>(`sounds/${sound.id}/handover`, 'POST', {
        bits: what === 'set' ? bits : null,
        listening: times,
        ...(copies[copy]!.form && { listeningForm: copies[copy]!.form }),
        tags: { title: title.trim(), artist: artist.trim() },
      });
      client.setQueryData(queryKey, made);
    });
  const put = (change: Partial<ListeningWish>) => setTimes({ ...times, ...change });
  return (
    <div className="mt-2 space-y-3">
      <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
        <Choice label="Make" value={what} options={contents} onChange={setWhat} />
        {what === 'set' && (
          <Choice
            label="Pieces as WAV of"
            value={String(bits)}
            options={{ 16: '16 bits', 24: '24 bits' }}
            onChange={(next) => setBits(Number(next) as 16 | 24)}
          />
        )}
        <Choice
          label="Listening copy as"
          value={copy}
          options={Object.fromEntries(Object.entries(copies).map(([key, { name }]) => [key, name]))}
          onChange={setCopy}
        />
      </div>
      <fieldset className="flex flex-wrap items-end gap-x-4 gap-y-2">
        <legend className="text-soft mb-1 text-xs font-semibold">
          The listening copy: the intro if there is one, then
        </legend>
        <Amount
          label="passes"
          value={times.times}
          min={1}
          max={100}
          isWhole
          onChange={(n) => put({ times: n })}
        />
        <Amount
          label="s into the last one it fades"
          value={times.fadeAfterSeconds}
          min={0}
          max={3_600}
          onChange={(seconds) => put({ fadeAfterSeconds: seconds })}
        />
        <Amount
          label="s of fade"
          value={times.fadeSeconds}
          min={0}
          max={3_600}
          onChange={(seconds) => put({ fadeSeconds: seconds })}
        />
        <Amount
          label="s of silence in front"
          value={times.silenceBeforeSeconds}
          min={0}
          max={60}
          onChange={(seconds) => put({ silenceBeforeSeconds: seconds })}
        />
        <Amount
          label="s behind"
          value={times.silenceBehindSeconds}
          min={0}
          max={60}
          onChange={(seconds) => put({ silenceBehindSeconds: seconds })}
        />
      </fieldset>
      <div className="flex flex-wrap gap-x-4 gap-y-2">
        <Text label="Title" value={title} onChange={setTitle} />
        <Text label="Artist" value={artist} onChange={setArtist} />
      </div>
      <div className="flex items-center gap-2">
        <button className="btn btn-primary btn-sm" disabled={busy} onClick={make}>
          {set ? 'Make it again' : what === 'set' ? 'Make the set' : 'Make the copy'}
        </button>
        <button className="btn btn-ghost btn-sm" onClick={onClose}>
          Close
        </button>
      </div>
      {set && <Made set={set} />}
    </div>
  );
}

function isOpenSet({ files }: OneOffSet): boolean {
  return files.some(({ state }) => state === 'queued' || state === 'running');
}

/** The files of the newest set, as far as they are there. */
function Made({ set }: { set: OneOffSet }) {
  const isDone = set.files.every(({ state }) => state === 'done');
  const hasPieces = (set.handover?.roles.length ?? 0) > 1;
  return (
    <section aria-label="The set" className="border-base-300 border-t pt-2">
      <div className="flex items-center justify-between gap-3">
        <h3 className="font-serif text-lg">{isDone ? 'Ready' : 'Being made …'}</h3>
        {isDone && (
          <a className="btn btn-primary btn-sm" href={`/api/one-offs/${set.id}/zip`} download>
            <Download size={15} aria-hidden /> Download{' '}
            {plural(set.files.length + (hasPieces ? 2 : 0), 'file')}
          </a>
        )}
      </div>
      <ul aria-label="Files of the set" className="mt-1">
        {set.files.map((file) => (
          <SetFile key={file.id} file={file} />
        ))}
        {hasPieces && (
          <li className="text-soft border-base-300 border-t py-1">
            … and the cue sheet in words and as JSON, which says how they follow one another
          </li>
        )}
      </ul>
    </section>
  );
}

function SetFile({
  file: { name, state, facts, error, progress, changes, warnings },
}: {
  file: OneOffFile;
}) {
  return (
    <li className="border-base-300 border-t py-1">
      <div className="flex items-center justify-between gap-3">
        <MiddleCut text={name} className="font-semibold" />
        {facts ? (
          <span className="whitespace-nowrap">
            {formatTime(facts.seconds)}{' '}
            <span className="text-soft">
              · {plural(facts.frames, 'frame')} · {size(facts.bytes)}
            </span>
          </span>
        ) : (
          <span className={error ? 'text-error text-xs' : 'text-soft text-xs'}>
            {error
              ? `${error.message} ${error.hint}`
              : state === 'queued'
                ? 'waiting'
                : `${Math.round(progress * 100)} %`}
          </span>
        )}
      </div>
      {[...changes.map(changeSentence), ...warnings].map((sentence) => (
        <p key={sentence} className="text-soft text-xs">
          {sentence}
        </p>
      ))}
    </li>
  );
}

function Choice<Value extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: Value;
  options: Readonly<Record<Value, string>>;
  onChange: (value: Value) => void;
}) {
  return (
    <label>
      <span className="text-soft block text-xs font-semibold">{label}</span>
      <select
        className="select select-sm w-auto"
        value={value}
        onChange={(event) => onChange(event.target.value as Value)}
      >
        {(Object.entries(options) as [Value, string][]).map(([key, text]) => (
          <option key={key} value={key}>
            {text}
          </option>
        ))}
      </select>
    </label>
  );
}

function Text({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
}) {
  return (
    <label>
      <span className="text-soft block text-xs font-semibold">{label}</span>
      <input
        className="input input-sm w-60"
        value={value}
        maxLength={400}
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  );
}

/** A number with what it counts behind it. */
function Amount(props: React.ComponentProps<typeof AmountField>) {
  return (
    <label className="flex items-center gap-1.5">
      <AmountField {...props} />
      {props.label}
    </label>
  );
}
