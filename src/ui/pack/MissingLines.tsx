'use client';

import { Languages } from 'lucide-react';
import { missingLines } from '@/core/brief/languages';
import type { Brief } from '@/core/brief/schema';
import { plural } from '../shared/format';
import { useProject } from '../shared/project';

/** Lines that a brief wants in every language, and that are missing in some; nothing where none are. */
export function MissingLines({ brief }: { brief: Brief }) {
  const { sounds, cells } = useProject();
  if (!brief.languages) return null;
  const sent = new Set(
    cells.filter(({ briefId }) => briefId === brief.id).map(({ soundId }) => soundId),
  );
  const missing = missingLines(
    sounds.filter(({ id }) => sent.has(id)),
    brief.languages,
  );
  if (missing.length === 0) return null;
  return (
    <details className="text-sm">
      <summary className="text-warning cursor-pointer">
        <Languages size={14} aria-hidden className="mr-1.5 inline" />
        {brief.title}: {plural(missing.length, 'line')} not there in every language
      </summary>
      <ul className="mt-1 max-h-40 overflow-y-auto pl-6">
        {missing.map(({ line, there, missing: not }) => (
          <li key={line}>
            <span className="font-semibold">{line}</span>: missing in {not.join(', ')}
            <span className="text-soft"> (there in {there.join(', ')})</span>
          </li>
        ))}
      </ul>
    </details>
  );
}
