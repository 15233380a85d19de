import { loadSeconds, links } from '@/core/pack/loading';
import type { BuildDetails } from '@/wire';
import { formatTime, plural, size } from '../../shared/format';

/** What a build comes to: bytes before and after, and how long it takes to load. */
export function Totals({ build }: { build: BuildDetails }) {
  const { bytes, sourceBytes, done } = build;
  if (done === 0) return <p className="text-soft mb-4">Nothing of it is finished yet.</p>;
  const most = Math.max(bytes, sourceBytes);
  const ratio = sourceBytes / bytes;
  const bar = (value: number, className: string) => (
    <span
      className={`block h-4 ${className}`}
      style={{ width: `${Math.max(0.3, (100 * value) / most)}%` }}
    />
  );
  return (
    <section
      aria-label="Before and after"
      className="border-base-300 bg-base-100 mb-4 grid gap-x-8 gap-y-3 border p-4 xl:grid-cols-[minmax(0,1fr)_auto]"
    >
      <div className="grid grid-cols-[5rem_minmax(0,1fr)_5rem] items-center gap-x-3 gap-y-1">
        <span className="text-soft">Sources</span>
        {bar(sourceBytes, 'bg-secondary/60')}
        <span className="text-right tabular-nums">{size(sourceBytes)}</span>
        <span className="text-soft">Files</span>
        {bar(bytes, 'bg-primary')}
        <strong className="text-right tabular-nums">{size(bytes)}</strong>
        <span />
        <span className="text-soft text-xs">
          {plural(done, 'file')};{' '}
          {ratio >= 1
            ? `÷ ${ratio.toFixed(1)}, ${((100 * bytes) / sourceBytes).toFixed(1)} % of what came in`
            : `× ${(1 / ratio).toFixed(1)}, larger than what came in`}
        </span>
      </div>
      <table className="self-center text-sm">
        <caption className="text-soft mb-1 text-left text-xs">To load all of it</caption>
        <tbody>
          {links.map((mbits) => (
            <tr key={mbits}>
              <th className="text-soft pr-4 text-left font-normal">{mbits} Mbit/s</th>
              <td className="pr-2 text-right tabular-nums">
                {loadTime(loadSeconds(sourceBytes, mbits))}
              </td>
              <td className="text-soft px-1">→</td>
              <td className="text-right font-semibold tabular-nums">
                {loadTime(loadSeconds(bytes, mbits))}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function loadTime(seconds: number): string {
  return seconds < 60 ? `${seconds.toFixed(seconds < 1 ? 2 : 1)} s` : formatTime(seconds, 0);
}
