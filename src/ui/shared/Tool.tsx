import type { ReactNode } from 'react';

/** A small button that shows only a picture; its name stands in the tip, with its key. */
export function Tool({
  label,
  onClick,
  pressed,
  disabled = false,
  isSmall = false,
  children,
}: {
  label: string;
  onClick: () => void;
  /** For those that are on or off. */
  pressed?: boolean;
  disabled?: boolean;
  isSmall?: boolean;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      className={`btn btn-ghost aria-pressed:bg-base-300 ${isSmall ? 'btn-xs px-1' : 'btn-sm min-w-8 px-1.5'}`}
      aria-label={label}
      aria-pressed={pressed}
      title={label}
      disabled={disabled}
      onClick={onClick}
    >
      {children}
    </button>
  );
}

/** One of a few, all in view. */
export function OneOf<Value extends string>({
  label,
  options,
  value,
  title,
  disabled = [],
  onChange,
}: {
  label: string;
  options: Readonly<Record<Value, string>>;
  value: Value;
  title: string;
  disabled?: readonly Value[];
  onChange: (value: Value) => void;
}) {
  return (
    <div role="radiogroup" aria-label={label} title={title} className="flex">
      {(Object.entries(options) as [Value, string][]).map(([key, text]) => (
        <button
          key={key}
          type="button"
          role="radio"
          aria-checked={key === value}
          disabled={disabled.includes(key)}
          onClick={() => onChange(key)}
          className="border-base-300 aria-checked:bg-base-300 hover:bg-base-200 -ml-px border px-2 py-0.5 text-xs first:rounded-l last:rounded-r aria-checked:font-semibold disabled:text-soft/60"
        >
          {text}
        </button>
      ))}
    </div>
  );
}
