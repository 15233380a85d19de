import type { PackSummary } from '@/wire';
import { plural, size } from '../../shared/format';

/** How far a pack is, or what is in it. */
export function stateText({ state, files, bytes }: PackSummary): string {
  switch (state) {
    case 'waiting':
      return 'its files are being built';
    case 'packing':
      return 'being put together';
    case 'failed':
      return 'was not made';
    case 'done':
      return `${plural(files, 'file')}, ${size(bytes)}`;
  }
}
