import type { Brief } from '@/core/brief/schema';

/** Whether people keep it themselves. */
export function isOwn({ id }: Pick<Brief, 'id'>): boolean {
  return id.startsWith('own-');
}
