import { answer, whole } from '../../answer';

/** A conversion with its files, as far as they are. */
export const GET = answer(async ({ params, bijou }) =>
  bijou.oneOffs.state(whole(params['conversion'], 'conversion')),
);

/** Stops what is not finished of it. */
export const DELETE = answer(async ({ params, bijou }) =>
  bijou.oneOffs.stop(whole(params['conversion'], 'conversion')),
);
