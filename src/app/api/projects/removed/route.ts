import { answer } from '../../answer';

/** Projects that were deleted and can be brought back. */
export const GET = answer(async ({ bijou }) => bijou.projects.removed());
