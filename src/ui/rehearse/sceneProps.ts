import type { LoadedPack } from '@/player/host/messages';
import type { PackPart } from './packs';
import type { Rehearsal } from './rehearsing';

/** What a host’s scene is given. */
export interface SceneProps {
  rehearsal: Rehearsal;
  loaded: LoadedPack;
  /** The part of the project’s pack that is in it; null for what was dropped. */
  part: PackPart | null;
}
