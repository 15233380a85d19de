import { useState } from 'react';

/**
 * What somebody is about to put in place of a value; null while that is nothing. It is forgotten when the value
 * changes behind it: with the drawing, not some time later, when it would take what was done meanwhile along.
 */
export function useDraft<Draft>(value: unknown): [Draft | null, (draft: Draft | null) => void] {
  const [draft, setDraft] = useState<Draft | null>(null);
  const [known, setKnown] = useState(value);
  if (!Object.is(known, value)) {
    setKnown(value);
    setDraft(null);
  }
  return [draft, setDraft];
}
