import { briefById } from '@/core/brief/catalogue';
import { briefTextOf } from '@/core/brief/edit';
import { briefFile } from '@/core/brief/exchange';
import { answer, whole } from '../../../../../answer';

/** A brief as a file, to be shared. */
export const GET = answer(async ({ params, bijou }) => {
  const briefs = bijou.briefsOf(whole(params['project'], 'project'));
  const brief = briefById(briefs, params['brief'] ?? '');
  return new Response(`${JSON.stringify(briefFile(briefTextOf(brief)), null, 2)}\n`, {
    headers: {
      'Content-Type': 'application/json',
      'Content-Disposition': `attachment; filename="${brief.id}.brief.json"`,
    },
  });
});
