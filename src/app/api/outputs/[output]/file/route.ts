import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { answer, whole } from '../../../answer';

/** A finished file, to be saved under its own name. */
export const GET = answer(async ({ params, bijou }) => {
  const output = bijou.packs.output(whole(params['output'], 'output'));
  const path = bijou.store.path(output.sha256);
  const { size } = await stat(path);
  return new Response(Readable.toWeb(createReadStream(path)) as ReadableStream, {
    headers: {
      'Content-Type': bijou.packs.mimeType(output),
      'Content-Length': String(size),
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(output.name)}`,
    },
  });
});
