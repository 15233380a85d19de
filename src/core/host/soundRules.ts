/** What rules about sounds are called. */
export const soundRules = {
  container: 'container',
  codec: 'codec',
  ending: 'ending of the name',
  channels: 'channels',
  rate: 'sample rate',
  length: 'length',
  undamaged: 'not damaged',
} as const;
