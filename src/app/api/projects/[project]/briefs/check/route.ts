import { demandsOf } from '@/core/brief/demands';
import { MOST_BRIEF_BYTES, readBriefFile } from '@/core/brief/exchange';
import { answer, textOf } from '../../../../answer';

/** Says what a brief would demand that somebody is writing, or where it is wrong. */
export const POST = answer(async ({ request }) => {
  const { brief, unknown } = readBriefFile(await textOf(request, MOST_BRIEF_BYTES));
  return { demands: demandsOf(brief), unknown };
});
