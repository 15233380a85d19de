import type { Demand } from '@/core/brief/demands';
import type { DemandPair } from '@/core/brief/edit';
import { freedoms } from './DemandTable';

/** Where two briefs differ, side by side. */
export function Differences({
  pairs,
  here,
  there,
}: {
  pairs: readonly DemandPair[];
  here: string;
  there: string;
}) {
  if (pairs.length === 0) return <p>They demand the very same.</p>;
  return (
    <table className="w-full text-sm">
      <thead>
        <tr className="border-base-300 border-b text-left text-xs">
          <th className="text-soft w-40 py-1 pr-3 font-normal">Only where they differ</th>
          <th className="w-[38%] py-1 pr-3">{here}</th>
          <th className="py-1">{there}</th>
        </tr>
      </thead>
      <tbody>
        {pairs.map(({ key, label, here: own, there: other }) => (
          <tr key={key} className="border-base-300 border-b align-baseline last:border-0">
            <th className="py-1 pr-3 text-left font-normal">{label}</th>
            <Side demand={own} />
            <Side demand={other} />
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Side({ demand }: { demand: Demand | null }) {
  if (!demand) return <td className="text-soft py-1 pr-3">–</td>;
  const { icon: Icon, word } = freedoms[demand.freedom];
  return (
    <td className="py-1 pr-3">
      <Icon size={12} aria-label={word} className="text-soft mr-1.5 inline" />
      {demand.text}
    </td>
  );
}
