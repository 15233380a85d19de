import { Check, CircleHelp, CircleX } from 'lucide-react';
import type { Judged } from '@/core/brief/check';
import { unmet } from '@/core/brief/unmet';

/** What was found in the decoded file, demand by demand: asked, found, verdict. */
export function Verified({ verdict }: { verdict: Judged }) {
  const { findings } = verdict;
  const open = unmet(findings).length;
  return (
    <details className="mt-1" open={open > 0}>
      <summary className="text-soft cursor-pointer text-xs">
        Verified: {findings.length - open} of {findings.length} demands met
      </summary>
      <table className="mt-1 w-full text-xs">
        <thead>
          <tr className="text-soft text-left">
            <th className="py-0.5 pr-2 font-normal">Demand</th>
            <th className="pr-2 font-normal">Asked</th>
            <th className="pr-2 font-normal">Found</th>
            <th>
              <span className="sr-only">Verdict</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {findings.map(({ requirement, wanted, found, verdict: one }) => {
            const Icon = one === 'met' ? Check : one === 'decide' ? CircleHelp : CircleX;
            const colour =
              one === 'met' ? 'text-success' : one === 'decide' ? 'text-warning' : 'text-error';
            return (
              <tr key={requirement} className="border-base-300 border-t align-baseline">
                <th className="py-0.5 pr-2 text-left font-normal">
                  {requirement.replaceAll('-', ' ')}
                </th>
                <td className="pr-2">{wanted}</td>
                <td className="pr-2">{found}</td>
                <td className={colour}>
                  <Icon size={13} aria-label={one === 'met' ? 'met' : 'not met'} />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </details>
  );
}
