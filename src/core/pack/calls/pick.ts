import type { Call } from './calls';

/**
 * Which variant is played, by the odds; null where none can be.
 * @param random From 0 up to, not including, 1.
 */
export function pickedVariant<V extends { odds: number }>(
  { variants }: Pick<Call<V>, 'variants'>,
  random: number,
): V | null {
  const whole = variants.reduce((sum, { odds }) => sum + Math.max(0, odds), 0);
  let left = random * whole;
  for (const variant of variants) {
    if (variant.odds <= 0) continue;
    left -= variant.odds;
    if (left < 0) return variant;
  }
  return whole > 0 ? (variants.findLast(({ odds }) => odds > 0) ?? null) : null;
}

/** How fast and high it is played: any factor of the call's span is as likely as any other, as ears hear it. */
export function pickedPitch({ pitch: [low, high] }: Pick<Call, 'pitch'>, random: number): number {
  return low * (high / low) ** random;
}
