import type { Call, PathVariant } from '../../pack/calls/calls';
import type { Descriptor } from './descriptor';

/** What the island has of a mod. */
export interface ModScene extends Omit<Descriptor, 'icon' | 'calls'> {
  /** A PNG; null where it is refused. */
  icon: Uint8Array | null;
  calls: Call<PathVariant>[];
}
