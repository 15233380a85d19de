import { TypedField } from './TypedField';
import { useDraft } from './useDraft';

const minus = (value: number) => String(value).replace('-', '−');

/** A number within limits that is typed; what is not one says so beneath. */
export function AmountField({
  label,
  value,
  min,
  max,
  isWhole = false,
  className = 'w-16',
  onChange,
}: {
  label: string;
  value: number;
  min: number;
  max: number;
  isWhole?: boolean;
  className?: string;
  onChange: (value: number) => void;
}) {
  const [typed, setTyped] = useDraft<string>(value);
  const text = (typed ?? String(value)).trim().replace('−', '-');
  const amount = Number(text);
  const isGood =
    text !== '' && amount >= min && amount <= max && (!isWhole || Number.isInteger(amount));
  const limits = `${isWhole ? 'a whole number, ' : ''}${minus(min)} to ${minus(max)}`;
  return (
    <span className="relative inline-block">
      <TypedField
        aria-label={label}
        title={`${label}: ${limits}`}
        className={className}
        inputMode="decimal"
        typed={typed}
        shown={minus(value)}
        isGood={isGood}
        onType={setTyped}
        onCommit={() => {
          setTyped(null);
          onChange(amount);
        }}
      />
      {!isGood && (
        <span className="text-error bg-base-200 absolute top-full left-0 z-10 text-xs whitespace-nowrap">
          {limits}
        </span>
      )}
    </span>
  );
}
