import { HIGHEST_HZ, LOWEST_HZ } from '@/core/pcm/rates';
import { useState, type FormEvent } from 'react';
import { sendAgain } from './sending';

/** Encodings of bare samples, by what people call them. */
const encodings: [id: string, name: string][] = [
  ['u8', '8-bit unsigned'],
  ['s8', '8-bit signed'],
  ['s16le', '16-bit, low byte first'],
  ['s16be', '16-bit, high byte first'],
  ['s24le', '24-bit, low byte first'],
  ['s24be', '24-bit, high byte first'],
  ['s32le', '32-bit, low byte first'],
  ['f32le', '32-bit float, low byte first'],
  ['f32be', '32-bit float, high byte first'],
  ['alaw', 'A-law'],
  ['ulaw', 'µ-law'],
];

/** Lets somebody say what the samples of a file without a header are. */
export function RawForm({ arrivalId }: { arrivalId: number }) {
  const [open, setOpen] = useState(false);
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const data = new FormData(event.currentTarget);
    const raw = ['encoding', 'rate', 'channels'].map((name) => String(data.get(name))).join(',');
    sendAgain(arrivalId, raw);
  };
  if (!open) {
    return (
      <button className="link link-primary" onClick={() => setOpen(true)}>
        It is raw samples…
      </button>
    );
  }
  return (
    <form className="mt-1 flex flex-wrap items-end gap-3" onSubmit={submit}>
      <label className="text-xs">
        Samples
        <select name="encoding" className="select select-sm block w-60" defaultValue="s16le">
          {encodings.map(([id, name]) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <NumberField
        name="rate"
        label="Sample rate in Hz"
        min={LOWEST_HZ}
        max={HIGHEST_HZ}
        start={44_100}
      />
      <NumberField name="channels" label="Channels" min={1} max={8} start={1} />
      <button className="btn btn-primary btn-sm">Read it so</button>
    </form>
  );
}

interface NumberFieldProps {
  name: string;
  label: string;
  min: number;
  max: number;
  start: number;
}

function NumberField({ name, label, min, max, start }: NumberFieldProps) {
  return (
    <label className="text-xs">
      {label}
      <input
        name={name}
        type="number"
        min={min}
        max={max}
        defaultValue={start}
        className="input input-sm block w-28"
      />
    </label>
  );
}
