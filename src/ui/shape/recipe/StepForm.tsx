import { isRate } from '@/core/pcm/rates';
import { useId } from 'react';
import type { Shape, Step, StepField, StepKind } from '@/core/recipe/types';
import { kilohertz } from '../../shared/format';
import { TimeField } from '../TimeField';
import { TypedField } from '../../shared/TypedField';
import { useDraft } from '../../shared/useDraft';

const rates = [
  8_000, 11_025, 12_000, 16_000, 22_050, 24_000, 32_000, 44_100, 48_000, 88_200, 96_000, 192_000,
];

/** Everything about a step that can be set. Each change counts at once. */
export function StepForm({
  kind,
  step,
  before,
  onChange,
}: {
  kind: StepKind;
  step: Step;
  before: Shape;
  onChange: (step: Step) => void;
}) {
  const set = (name: string, value: unknown) => {
    const params = { ...step.params, [name]: value };
    if (value === undefined) delete params[name];
    onChange({ ...step, params: kind.along?.(params, name) ?? params });
  };
  const fields = kind.fields.filter(({ when }) => !when || step.params[when[0]] === when[1]);
  return (
    <div className="flex flex-wrap items-start gap-x-3 gap-y-1">
      {fields.map((field) => (
        <Field
          key={field.name}
          field={field}
          value={step.params[field.name]}
          before={before}
          onChange={(value) => set(field.name, value)}
        />
      ))}
    </div>
  );
}

interface FieldProps {
  field: StepField;
  value: unknown;
  before: Shape;
  onChange: (value: unknown) => void;
}

function Field({ field, value, before, onChange }: FieldProps) {
  const id = useId();
  if (field.type === 'place' || field.type === 'length') {
    return (
      <TimeField
        label={field.label}
        frame={Number(value ?? 0)}
        rateHz={before.rateHz}
        isLength={field.type === 'length'}
        problem={() => null}
        onChange={onChange}
      />
    );
  }
  return (
    <div>
      <label htmlFor={id} className="text-soft mb-1 block text-xs font-semibold">
        {field.label}
      </label>
      {field.type === 'choice' ? (
        <select
          id={id}
          className="select select-sm w-auto"
          value={String(value)}
          onChange={(event) => onChange(event.target.value)}
        >
          {field.options.map((option) => (
            <option key={option.value} value={option.value}>
              {option.label}
            </option>
          ))}
        </select>
      ) : field.type === 'rate' ? (
        <RateField id={id} value={Number(value)} onChange={onChange} />
      ) : (
        <NumberField
          id={id}
          field={field}
          value={value as number | undefined}
          onChange={onChange}
        />
      )}
    </div>
  );
}

function NumberField({
  id,
  field,
  value,
  onChange,
}: {
  id: string;
  field: Extract<StepField, { type: 'number' }>;
  value: number | undefined;
  onChange: (value: number | undefined) => void;
}) {
  const shown = value === undefined ? '' : String(value).replace('-', '−');
  const [typed, setTyped] = useDraft<string>(value);
  const text = (typed ?? shown).trim().replace('−', '-');
  const isEmpty = text === '';
  const number = Number(text);
  const isGood = isEmpty
    ? (field.isOptional ?? false)
    : Number.isFinite(number) && number >= field.min && number <= field.max;
  const commit = () => {
    setTyped(null);
    onChange(isEmpty ? undefined : number);
  };
  return (
    <>
      <span className="flex items-center gap-1">
        <TypedField
          id={id}
          className="w-20"
          inputMode="decimal"
          typed={typed}
          shown={shown}
          isGood={isGood}
          onType={setTyped}
          onCommit={commit}
        />
        {field.unit}
      </span>
      {!isGood && (
        <p className="text-error text-xs">
          {String(field.min).replace('-', '−')} to {field.max}
        </p>
      )}
    </>
  );
}

/** A usual rate is chosen, any other typed. */
function RateField({
  id,
  value,
  onChange,
}: {
  id: string;
  value: number;
  onChange: (rateHz: number) => void;
}) {
  const [typed, setTyped] = useDraft<string>(value);
  const number = Number((typed ?? String(value)).replace(/[,\s]|Hz/gi, ''));
  const isGood = isRate(number);
  const commit = () => {
    setTyped(null);
    onChange(number);
  };
  return (
    <>
      <span className="flex items-center gap-1">
        <select
          id={id}
          className="select select-sm w-auto"
          value={rates.includes(value) ? value : ''}
          onChange={(event) => onChange(Number(event.target.value))}
        >
          {!rates.includes(value) && <option value="">{kilohertz(value)}</option>}
          {rates.map((rate) => (
            <option key={rate} value={rate}>
              {kilohertz(rate)}
            </option>
          ))}
        </select>
        <TypedField
          className="w-24"
          aria-label="Rate in Hz"
          inputMode="numeric"
          typed={typed}
          shown={String(value)}
          isGood={isGood}
          onType={setTyped}
          onCommit={commit}
        />
        Hz
      </span>
      {!isGood && <p className="text-error text-xs">1,000 to 768,000, in whole hertz</p>}
    </>
  );
}
