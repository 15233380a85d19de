import { deviation, mean } from '@/core/measure/statistics';
import type { VoiceModel } from '@/core/measure/voice/model';

/** One recording, read at one rate. */
export interface Example {
  file: string;
  group: string;
  family: string;
  isVoice: boolean;
  /** At how many times its rate: 0.5, 1 or 2. */
  factor: number;
  traits: number[];
}

const CLASSES = 4;
const STEPS = 3_000;
const PACE = 0.2;
const INERTIA = 0.9;
/** Keeps the weights small. */
const SHRINKING = 1e-3;
/** A right label and no voice at all are what is met most. */
const SHARES = [1, 1.5, 1, 1.5];

/** Which class of the model an example belongs to. */
function classOf({ isVoice, factor }: Example): number {
  return isVoice ? [0.5, 1, 2].indexOf(factor) : 3;
}

/** Logistic regression with several classes, by gradient descent on the weighed log loss. */
export function fitted(examples: readonly Example[]): VoiceModel {
  const count = examples[0]!.traits.length;
  const columns = Array.from({ length: count }, (_, i) => examples.map(({ traits }) => traits[i]!));
  const middles = columns.map(mean);
  const widths = columns.map((column) => 1e-6 + deviation(column));
  const inputs = examples.map(({ traits }) =>
    Float64Array.from([...traits.map((x, i) => (x - middles[i]!) / widths[i]!), 1]),
  );
  const kinds = examples.map(classOf);
  const importance = weighed(examples);
  const rows = () => Array.from({ length: CLASSES }, () => new Float64Array(count + 1));
  const [weights, speeds, found] = [rows(), rows(), new Float64Array(CLASSES)];
  for (let step = 0; step < STEPS; step++) {
    const slopes = weights.map((row) => row.map((w, i) => (i < count ? SHRINKING * w : 0)));
    inputs.forEach((input, e) => {
      shares(input, weights, found);
      for (let c = 0; c < CLASSES; c++) {
        const error = importance[e]! * (found[c]! - (kinds[e] === c ? 1 : 0));
        const slope = slopes[c]!;
        for (let i = 0; i <= count; i++) slope[i]! += error * input[i]!;
      }
    });
    weights.forEach((row, c) => {
      const [speed, slope] = [speeds[c]!, slopes[c]!];
      for (let i = 0; i <= count; i++) {
        speed[i] = INERTIA * speed[i]! - PACE * slope[i]!;
        row[i]! += speed[i]!;
      }
    });
  }
  // For traits as they are measured.
  return {
    weights: weights.map((row) => {
      const plain = widths.map((width, i) => row[i]! / width);
      return [...plain, row[count]! - plain.reduce((sum, w, i) => sum + w * middles[i]!, 0)];
    }),
  };
}

/** Probability of each class. */
function shares(input: Float64Array, weights: readonly Float64Array[], into: Float64Array): void {
  let all = 0;
  weights.forEach((row, c) => {
    let score = 0;
    for (let i = 0; i < row.length; i++) score += row[i]! * input[i]!;
    all += into[c] = Math.exp(score);
  });
  for (let c = 0; c < into.length; c++) into[c]! /= all;
}

/** Large groups count for more than small ones, but not as much as they are larger. */
function weighed(examples: readonly Example[]): number[] {
  const sizes = new Map<string, number>();
  const key = (example: Example) => `${example.group} ${classOf(example)}`;
  for (const example of examples) sizes.set(key(example), (sizes.get(key(example)) ?? 0) + 1);
  const plain = examples.map((example) => 1 / Math.sqrt(sizes.get(key(example))!));
  const sums = SHARES.map((_, c) =>
    plain.reduce((sum, weight, e) => sum + (classOf(examples[e]!) === c ? weight : 0), 0),
  );
  const all = SHARES.reduce((sum, share) => sum + share, 0);
  return plain.map((weight, e) => {
    const kind = classOf(examples[e]!);
    return (weight / sums[kind]!) * (SHARES[kind]! / all);
  });
}
