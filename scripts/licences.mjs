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
    '(LGPL) in mpg123-decoder, FAAD2 (GPL-2.0-or-later) in @audio/decode-aac, and the AAC encoder of',
    'libavcodec (LGPL) in @mediabunny/aac-encoder. The fonts are under the SIL Open Font License.',
    'Made by `npm run licences`.',
    '',
    '| package | version | licence |',
    '| --- | --- | --- |',
    ...rows,
    '',
  ].join('\n'),
);
