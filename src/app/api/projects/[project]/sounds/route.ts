import { BijouError } from '@/core/errors';
import { parseRaw } from '@/core/formats/raw/reader';
import { answer, whole } from '../../../answer';

/**
 * Takes in one file: its bytes are the body, its name is the query's `name`. A file without a header
 * is described by `raw`, such as `s16le,44100,2`.
 */
export const POST = answer(async ({ request, params, bijou }) => {
  const projectId = whole(params['project'], 'project');
  bijou.projectById(projectId);
  const query = new URL(request.url).searchParams;
  const name = query.get('name') ?? '';
  const raw = query.get('raw');
  if (!request.body) {
    throw new BijouError(
      'empty-file',
      'The file is empty: it has 0 bytes.',
      'Check that it was copied or downloaded to the end.',
    );
  }
  const length = request.headers.get('content-length');
  return bijou.sounds.add(
    projectId,
    name,
    request.body as unknown as AsyncIterable<Uint8Array>,
    length === null ? null : whole(length, 'content-length'),
    { raw: raw === null ? null : parseRaw(raw) },
  );
});
