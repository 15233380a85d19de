import { BijouError } from '@/core/errors';
import { answer } from '../answer';

/** What is answered for an address that cannot be read: see `server/addresses`. */
const refuse = answer(async () => {
  throw new BijouError(
    'bad-setting',
    'The address cannot be read: a percent sign in it has no two hexadecimal digits behind it, or they are no UTF-8.',
    'Write a percent sign as %25.',
  );
});

export { refuse as DELETE, refuse as GET, refuse as PATCH, refuse as POST, refuse as PUT };
