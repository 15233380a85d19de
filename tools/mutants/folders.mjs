/**
 * Parts of the core that are searched for faults nobody would notice, each in groups with the tests nearest to
 * them: code with faults in it is slow, and what loops is slow enough.
 */
export const folders = {
  pack: [
    {
      mutate: ['src/core/pack/*.ts'],
      tests: ['naming', 'words', ...packs('plan', 'paths', 'calls', 'partCalls', 'changes')],
    },
    { mutate: ['src/core/pack/calls/*.ts'], tests: packs('calls', 'plan') },
    { mutate: ['src/core/pack/manifests/*.ts'], tests: packs('manifests') },
    { mutate: ['src/core/pack/mend/*.ts'], tests: packs('mend') },
    { mutate: ['src/core/pack/texts/**/*.ts'], tests: packs('texts', 'writtenTexts', 'standings') },
    { mutate: ['src/core/pack/icon/*.ts'], tests: packs('icon') },
  ],
  brief: [
    {
      mutate: ['src/core/brief/*.ts', 'src/core/encoding.ts'],
      tests: ['briefs', 'briefCells', 'briefFiles', 'briefNeeds', 'briefLosses', 'requirements'],
    },
  ],
  join: [{ mutate: ['src/core/join/**/*.ts'], tests: ['join', 'joinExact'] }],
  recipe: [
    {
      mutate: ['src/core/recipe/**/*.ts'],
      tests: [
        'stepFacts',
        'recipeFacts',
        'steps',
        'loop',
        'mending',
        'cure',
        'words',
        '../ui/view',
      ],
    },
  ],
  dsp: [
    {
      mutate: ['fade', 'level', 'reverse', 'splice', 'channels', 'speed'].map(dsp),
      tests: ['fades', 'sources', 'steps', 'speakers'],
    },
    { mutate: [dsp('dither')], tests: ['dither'] },
    { mutate: [dsp('offset')], tests: ['offset'] },
    { mutate: ['resample', 'filterBank'].map(dsp), tests: ['resample'] },
    { mutate: ['declick', 'clickJudge', 'autoregression'].map(dsp), tests: ['clicks'] },
    { mutate: [dsp('clickFinder')], tests: ['clickFinder', 'clicks', 'declick'] },
  ],
  measure: [
    { mutate: [measure('worries')], tests: ['worries'] },
    {
      mutate: [
        'analyser',
        'clipping',
        'decibels',
        'grid',
        'level',
        'levels',
        'loudness',
        'silence',
        'truePeak',
      ].map(measure),
      tests: ['meters', 'loudness'],
    },
    {
      mutate: [
        'crossing',
        'probe',
        'pyramid',
        'sounding',
        'spectrogram',
        'spectrum',
        'thumbnail',
      ].map(measure),
      tests: ['waveform', 'spectra', 'finding'],
    },
  ],
  writers: [
    {
      mutate: writers('wav', 'aiff', 'raw', 'flac'),
      tests: ['writtenBytes', 'writtenStreams', 'writerSettings', 'wav', 'flacRates', 'marks'],
    },
    {
      mutate: writers('mp3', 'mp4', 'webm'),
      tests: ['writtenStreams', 'writerSettings', 'containers', 'marks'],
    },
    {
      mutate: ['vorbisWriter', 'opusWriter'].map((name) => `src/core/formats/ogg/${name}.ts`),
      tests: ['writtenStreams', 'marks', 'containers'],
    },
  ],
};

function packs(...names) {
  return names.map((name) => `pack/${name}`);
}

function dsp(name) {
  return `src/core/dsp/${name}.ts`;
}

function measure(name) {
  return `src/core/measure/${name}.ts`;
}

function writers(...formats) {
  return formats.map((format) => `src/core/formats/${format}/writer.ts`);
}
