import localFont from 'next/font/local';

/** Numbers and everything that is read at work. */
export const textFont = localFont({
  src: '../../node_modules/@fontsource-variable/hanken-grotesk/files/hanken-grotesk-latin-wght-normal.woff2',
  weight: '100 900',
  variable: '--font-text',
});

/** Names of projects and stations. */
export const displayFont = localFont({
  src: '../../node_modules/@fontsource-variable/newsreader/files/newsreader-latin-wght-normal.woff2',
  weight: '200 800',
  variable: '--font-display',
});
