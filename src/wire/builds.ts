import type { ErrorFacts } from '@/core/errors';
import type { WorkState } from './work';

/** One run of building, in short. */
export interface BuildSummary {
  id: number;
  createdAt: string;
  files: number;
  done: number;
  failed: number;
  /** Queued or being made. */
  open: number;
  /** What the finished files come to, and their sources; a source counts once for each file of it. */
  bytes: number;
  sourceBytes: number;
}

/** One file of a build, under the name that it had then. */
export interface BuiltFile {
  outputId: number;
  encodingId: number;
  soundId: number;
  soundName: string;
  briefId: string;
  fileId: string;
  path: string;
  state: WorkState;
  error: ErrorFacts | null;
  sha256: string | null;
  /** null until it is done. */
  bytes: number | null;
  sourceBytes: number;
  seconds: number | null;
}

/** Everything about a build. */
export interface BuildDetails extends BuildSummary {
  outputs: BuiltFile[];
}
