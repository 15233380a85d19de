import { ChevronDown, ChevronRight } from 'lucide-react';
import type { CSSProperties } from 'react';
import { formatTime, plural, size } from '../../shared/format';
import type { Entry } from './useSoundTable';

/** The line above a group: what it is called and what is in it. */
export function GroupLine({
  title,
  entries,
  isOpen,
  onToggle,
  onChooseAll,
  place,
  rowIndex,
}: {
  title: string;
  entries: readonly Entry[];
  isOpen: boolean;
  onToggle: () => void;
  onChooseAll: (ids: number[]) => void;
  place: CSSProperties;
  rowIndex: number;
}) {
  const Chevron = isOpen ? ChevronDown : ChevronRight;
  return (
    <div
      role="row"
      aria-rowindex={rowIndex}
      className="bg-base-200 border-base-300 absolute inset-x-0 border-b"
      style={{ ...place, display: 'block' }}
    >
      <div role="gridcell" className="sticky left-0 flex h-full w-fit items-center gap-3 px-3">
        <button
          className="flex items-center gap-1.5 font-semibold"
          aria-expanded={isOpen}
          onClick={onToggle}
        >
          <Chevron size={15} aria-hidden /> {title}
        </button>
        <span className="text-soft text-xs">{totalText(entries)}</span>
        <button
          className="link text-xs"
          onClick={() => onChooseAll(entries.map(({ sound }) => sound.id))}
        >
          choose all
        </button>
      </div>
    </div>
  );
}

/** Count, length and bytes of some sounds. */
export function totalText(entries: readonly Pick<Entry, 'sound'>[]): string {
  const seconds = entries.reduce((sum, { sound }) => sum + (sound.facts?.seconds ?? 0), 0);
  const bytes = entries.reduce((sum, { sound }) => sum + sound.bytes, 0);
  return `${plural(entries.length, 'sound')}, ${formatTime(seconds, seconds < 60 ? 1 : 0)} in all, ${size(bytes)}`;
}
