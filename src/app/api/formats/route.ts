import { formatChoices } from '@/core/formats/legality';
import { answer } from '../answer';

/** Everything that sounds can be converted to, with what can be set. */
export const GET = answer(async () => formatChoices());
