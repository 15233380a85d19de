import { BijouError } from '@/core/errors';
import { isRate } from '@/core/pcm/rates';
import { stepKinds } from '@/core/recipe/steps';

export function wrong(message: string, hint: string): BijouError {
  return new BijouError('wrong-call', message, hint);
}

export function numberOption(
  name: string,
  text: string | undefined,
  range?: { min: number; max: number },
  example = range ? `Give a number from ${range.min} to ${range.max}.` : `For example --${name} 1.`,
): number | undefined {
  if (text === undefined) return undefined;
  const value = Number(text.replace('−', '-'));
  if (text.trim() === '' || !Number.isFinite(value)) {
    throw wrong(
      `--${name} needs a number, not "${text}".`,
      /\d,\d/.test(text) ? `Write it with a point. ${example}` : example,
    );
  }
  if (range && (value < range.min || value > range.max)) {
    throw wrong(`--${name} cannot be ${text}.`, `Give a number from ${range.min} to ${range.max}.`);
  }
  return value;
}

/** What a kind of step takes for one of its numbers. */
export function rangeOf(kind: string, name: string): { min: number; max: number } {
  const fields = stepKinds.find((step) => step.kind === kind)?.fields ?? [];
  const field = fields.find((one) => one.name === name);
  if (field?.type !== 'number') throw new Error(`no number ${name} in ${kind}`);
  return field;
}

export function rateOption(name: string, text: string | undefined): number | undefined {
  const hint = 'Give a sample rate in Hz, such as 44100.';
  const rateHz = numberOption(name, text, undefined, hint);
  if (rateHz !== undefined && !isRate(rateHz)) {
    throw wrong(`--${name} cannot be ${text}.`, hint);
  }
  return rateHz;
}

/** @throws wrong-call where several of these are asked for. */
export function oneOutput(asked: Record<string, boolean | undefined>): void {
  const [first, second] = Object.keys(asked).filter((name) => asked[name]);
  if (second === undefined) return;
  throw wrong(`Only one of --${first} and --${second} can be printed.`, 'Leave one of them out.');
}
