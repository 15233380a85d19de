import type { ErrorFacts } from '@/core/errors';

/** due: its files are being made · checking: the host looks at them. */
export type RehearsalState = 'due' | 'checking' | 'done' | 'failed';

/** What its host said of what was built last for a destination. */
export interface RehearsalSummary {
  briefId: string;
  state: RehearsalState;
  error: ErrorFacts | null;
  /** null until it has said something. */
  said: {
    host: string;
    hostVersion: number;
    accepted: boolean;
    /** How much it refused, and the first of it in a sentence. */
    refused: number;
    first: string | null;
    at: string;
  } | null;
}
