/** Writes docs/third-party-licences.md: every package that the shipped application is made of. */
import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { relative } from 'node:path';

const tree = execFileSync('npm', ['ls', '--omit=dev', '--all', '--parseable'], {
  encoding: 'utf8',
});
const packages = new Map();
for (const path of tree.trim().split('\n').slice(1)) {
  const { name, version, license } = JSON.parse(readFileSync(`${path}/package.json`, 'utf8'));
  // Builds for other platforms differ from machine to machine and carry their parent's licence.
  if (
    /(linux|darwin|win32|freebsd|android|openbsd|netbsd|sunos|aix|wasm32)-/.test(
      relative('.', path),
    )
  )
    continue;
  packages.set(`${name}@${version}`, { name, version, license: license ?? 'see its folder' });
}
const rows = [...packages.values()]
  .sort((a, b) => a.name.localeCompare(b.name) || a.version.localeCompare(b.version))
  .map(({ name, version, license }) => `| ${name} | ${version} | ${license} |`);
writeFileSync(
  'docs/third-party-licences.md',
  [
    '# Third-party licences',
    '',
    'Bijou itself is GPL-3.0-or-later. It is made with these packages; their texts lie in their folders',
    'under `node_modules`. Inside them: LAME (LGPL) and libvorbis (BSD) in wasm-media-encoders, mpg123',
    '(LGPL) in mpg123-decoder, FAAD2 in @audio/decode-aac, and the AAC encoder of libavcodec (LGPL) in',
    '@mediabunny/aac-encoder. The fonts are under the SIL Open Font License. Made by `npm run licences`.',
    '',
    '## What is clear, and what is not',
    '',
    'Everything but one package is under MIT, BSD, ISC, MPL-2.0, Apache-2.0, LGPL-2.1 or LGPL-3.0 (or later), each of',
    'which may be combined with GPL-3.0. The one is `@audio/decode-aac`, which decodes AAC and ALAC:',
    '',
    '- Its `package.json` and its licence text say **GPL-2.0**, without "or later", "as required by the included FAAD2',
    '  library". FAAD2 itself says **GPL-2.0-or-later** in its sources, and its ALAC part is a port of a reference decoder',
    '  under **Apache-2.0**, which GPL-2.0 alone does not go together with. Read word for word, the package could then not',
    '  even be combined with itself, nor with the packages under Apache-2.0 and LGPL-3.0 here (`codec-parser`,',
    '  `@eshaz/web-worker` and others); read as FAAD2 means it, GPL-3.0 covers all of them. Bijou relies on the second',
    '  reading. **Its maker has not been asked; until they say "or later", this is not clear.**',
    '- FAAD2 asks whoever passes it on to say: Code from FAAD2 is copyright (c) Nero AG, www.nero.com.',
    '- AAC is covered by patents in some countries. A licence of copyright says nothing of these.',
    '',
    'Looked for instead (November 2026): a decoder of AAC for Node and browsers whose terms are clear. The WebAssembly',
    'family that decodes MP3, Vorbis, FLAC and Opus here has none for AAC; the container library in use decodes with the',
    'browser’s own decoder, which Node has not. libavcodec (LGPL-2.1-or-later) decodes AAC and could be built for',
    'WebAssembly; none of the few packages that were looked at is such a build. Everything that knows the package stands in',
    '`src/core/formats/aac/package.ts`, so that it can be exchanged.',
    '',
    '## Packages',
    '',
    '| package | version | licence |',
    '| --- | --- | --- |',
    ...rows,
    '',
  ].join('\n'),
);
