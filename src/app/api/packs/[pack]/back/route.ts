import { answer, whole } from '../../../answer';

/** Brings a pack back that was removed not long ago. */
export const POST = answer(async ({ params, bijou }) => {
  bijou.packing.bringBack(whole(params['pack'], 'pack'));
});
