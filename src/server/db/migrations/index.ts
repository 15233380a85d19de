import { first } from './001First';

/** In order. A migration that has landed is never changed; the next one is added. */
export const migrations: readonly string[] = [first];
