import { plainIcon } from '@/core/pack/icon/check';
import { drawnIcon } from '@/core/pack/icon/draw';
import type { IconTask } from './tasks';

/** Draws an icon of a title, or takes a given one, with nothing in it but its picture. */
export async function makeIcon({ given, title, sizes }: IconTask): Promise<Uint8Array> {
  return given ? plainIcon(given, sizes) : drawnIcon(title, sizes[0]!);
}
