import { answer, whole } from '../../../answer';

/** All finished files of a conversion as a zip. */
export const GET = answer(async ({ params, bijou }) => {
  const { name, stream } = bijou.oneOffs.zip(whole(params['conversion'], 'conversion'));
  return new Response(stream, {
    headers: {
      'Content-Type': 'application/zip',
      'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
    },
  });
});
