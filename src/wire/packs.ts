import type { Layout } from '@/core/brief/layout';
import type { ErrorFacts } from '@/core/errors';
import type { Call } from '@/core/pack/calls/calls';
import type { PackChanges } from '@/core/pack/changes';
import type { SlotState } from '@/core/pack/slots';
import type { PackSettings } from '@/core/pack/settings';
import type { PackTrouble } from '@/core/pack/troubles';

/** waiting: its files are being made · packing: it is being put together. */
export type PackState = 'waiting' | 'packing' | 'done' | 'failed';

/** One file of a pack, by the path that it has in it. */
export interface PackedFile {
  path: string;
  kind: 'sound' | 'text' | 'icon';
  briefId: string;
  sha256: string;
  bytes: number;
  mimeType: string;
  soundId: number | null;
}

/** A pack in short. */
export interface PackSummary {
  id: number;
  title: string;
  briefs: string[];
  state: PackState;
  error: ErrorFacts | null;
  /** Of its list; null until it is done. */
  digest: string | null;
  createdAt: string;
  files: number;
  bytes: number;
}

/** Everything about a pack that was made. */
export interface PackDetails extends PackSummary {
  list: PackedFile[];
  /** Against the pack that it was asked to be held beside. */
  since: { id: number; changes: PackChanges } | null;
  /** What a pack made now would have otherwise; null while none could be made. */
  now: PackChanges | null;
}

/** One file of a pack that has not been made yet. */
export interface OutlinedFile {
  path: string;
  kind: PackedFile['kind'];
  briefId: string;
  bytes: number;
  soundId: number | null;
  /** null while it has to be built first. */
  sha256: string | null;
}

/** What one destination gets, and what was decided about it. */
export interface PackPart {
  briefId: string;
  folder: string;
  layout: Layout | null;
  settings: PackSettings;
  title: string;
  fields: Record<string, string | number>;
  slots: SlotState[];
  /** As they are; made of names where nobody has changed them. */
  calls: Call[];
  usesCalls: boolean;
  /** The sounds that go there, with where they lie. */
  sounds: { soundId: number; paths: string[]; slots: string[]; isReady: boolean }[];
  /** Bytes of the finished sounds; what is left where there is a limit. */
  soundBytes: number;
  mostTotalBytes: number | null;
}

/** A pack as it would be made now. */
export interface PackOutline {
  files: OutlinedFile[];
  parts: PackPart[];
  troubles: PackTrouble[];
  /** Files that have to be built first, and that can be. */
  toBuild: number;
  /** The newest pack of the same destinations, and whether it is as this one would be. */
  newest: { id: number; isCurrent: boolean } | null;
}

/** A text of a pack as it would be written now. */
export interface OutlinedText {
  path: string;
  is: string;
  text: string;
  template: string | null;
  manifest: string | null;
}
