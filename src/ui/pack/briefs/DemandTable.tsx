import { CircleDashed, Lock, List, MoveHorizontal } from 'lucide-react';
import type { Freedom } from '@/core/brief/accepted';
import type { Demand } from '@/core/brief/demands';

/** How far a demand binds, by a sign and a word. */
export const freedoms: Readonly<
  Record<Freedom, { icon: typeof Lock; word: string; says: string }>
> = {
  fixed: { icon: Lock, word: 'fixed', says: 'just this' },
  list: { icon: List, word: 'one of', says: 'one of these; the first is preferred' },
  range: { icon: MoveHorizontal, word: 'within', says: 'anything within these limits' },
  free: { icon: CircleDashed, word: 'open', says: 'as the source has it' },
};

/** Everything that a brief demands or leaves open, in words. */
export function DemandTable({
  demands,
  isMany,
}: {
  demands: readonly Demand[];
  /** The brief wants several files of each sound. */
  isMany: boolean;
}) {
  return (
    <table className="w-full text-sm">
      <thead className="sr-only">
        <tr>
          <th>Demand</th>
          <th>Freedom</th>
          <th>What</th>
        </tr>
      </thead>
      <tbody>
        {demands.map(({ fileId, demand, label, freedom, text }) => {
          const { icon: Icon, word, says } = freedoms[freedom];
          const isFree = freedom === 'free';
          return (
            <tr
              key={`${fileId} ${demand}`}
              className={`border-base-300 border-b align-baseline last:border-0 ${isFree ? 'text-soft' : ''}`}
            >
              <th className="w-44 py-1 pr-3 text-left font-normal">
                {isMany && fileId !== null && (
                  <span className="text-soft mr-1 text-xs uppercase">{fileId}</span>
                )}
                {label}
              </th>
              <td className="w-20 py-1 pr-3 text-xs whitespace-nowrap" title={says}>
                <Icon size={12} aria-hidden className="mr-1 inline" />
                {word}
              </td>
              <td className={`py-1 ${isFree ? '' : 'font-semibold'}`}>{text}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
