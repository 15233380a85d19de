/** A colour of the theme at a share of the way from the lowest level to the highest. */
export type RampStop = readonly [share: number, token: string];

/** Spectrograms go from paper to ink over the jewel's colour. */
export const LEVEL_STOPS: readonly RampStop[] = [
  [0, '--color-base-100'],
  [0.35, '--color-base-100'],
  [0.75, '--color-primary'],
  [1, '--color-base-content'],
];

/** Colours of 256 levels, as they lie in an image's memory. */
export function rampOf(canvas: HTMLCanvasElement, stops: readonly RampStop[]): Uint32Array {
  const style = getComputedStyle(canvas);
  const ramp = new OffscreenCanvas(256, 1).getContext('2d')!;
  const gradient = ramp.createLinearGradient(0, 0, 256, 0);
  for (const [share, token] of stops) gradient.addColorStop(share, style.getPropertyValue(token));
  ramp.fillStyle = gradient;
  ramp.fillRect(0, 0, 256, 1);
  return new Uint32Array(ramp.getImageData(0, 0, 256, 1).data.buffer);
}
