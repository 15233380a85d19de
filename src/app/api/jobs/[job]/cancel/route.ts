import { answer, whole } from '../../../answer';

export const POST = answer(async ({ params, bijou }) => ({
  cancelled: await bijou.jobs.cancel(whole(params['job'], 'job')),
}));
