import type { PointStyle } from 'chart.js';

/** How the marks of each codec look: a shape and a colour of the theme, so that either tells them apart. */
const marks: Record<string, { shape: PointStyle; colour: string; sign: string }> = {
  mp3: { shape: 'triangle', colour: '--color-warning', sign: '▲' },
  vorbis: { shape: 'circle', colour: '--color-primary', sign: '●' },
  opus: { shape: 'rectRot', colour: '--color-success', sign: '◆' },
  aac: { shape: 'rect', colour: '--color-info', sign: '■' },
  'ima-adpcm': { shape: 'crossRot', colour: '--color-error', sign: '✕' },
  flac: { shape: 'star', colour: '--color-base-content', sign: '✳' },
  pcm: { shape: 'cross', colour: '--color-secondary', sign: '+' },
};

export function markOf({ codec }: { codec: string }) {
  return { codec, ...(marks[codec] ?? marks['pcm']!) };
}

/** The colour that a token of the theme has now, in some place of the page. */
export function themeColour(token: string, place: Element): string {
  return getComputedStyle(place).getPropertyValue(token).trim();
}
