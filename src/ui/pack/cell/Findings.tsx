import { ArrowRightLeft, Check, CircleHelp, CircleX } from 'lucide-react';
import type { Finding, Verdict } from '@/core/brief/types';
import type { PackLine } from '@/wire';

const signs: Record<Verdict, { icon: typeof Check; word: string; className: string }> = {
  met: { icon: Check, word: 'Met', className: 'text-success' },
  convert: { icon: ArrowRightLeft, word: 'Will be converted', className: 'text-soft' },
  decide: { icon: CircleHelp, word: 'Needs a decision', className: 'text-warning' },
  cannot: { icon: CircleX, word: 'Cannot be met', className: 'text-error' },
};

/** What holding the sound against the brief has found: first what is not met, then what is. */
export function Findings({ line }: { line: PackLine }) {
  const groups = joined(line.findings);
  const open = groups.filter(({ verdict }) => verdict !== 'met');
  const met = groups.filter(({ verdict }) => verdict === 'met');
  return (
    <div className="min-w-0">
      {line.findings.length === 0 && line.obstacle && (
        <p className="text-error">
          {line.obstacle.message} {line.obstacle.hint}
        </p>
      )}
      <ul className="space-y-1">
        {open.map((finding) => (
          <Row key={finding.sentence} finding={finding} />
        ))}
      </ul>
      {open.length === 0 && met.length > 0 && <p>Everything is as the destination wants it.</p>}
      {met.length > 0 && (
        <details className="mt-1">
          <summary className="text-soft cursor-pointer text-xs">
            {met.length} met already: {met.map(({ wanted }) => wanted).join(', ')}
          </summary>
          <ul className="mt-1 space-y-1">
            {met.map((finding) => (
              <Row key={finding.sentence} finding={finding} />
            ))}
          </ul>
        </details>
      )}
      {line.plans.length > 0 && (
        <details className="mt-1">
          <summary className="text-soft cursor-pointer text-xs">
            What will be done, in order
          </summary>
          {line.plans.map(({ fileId, steps }) => (
            <p key={fileId} className="mt-1">
              <span className="font-semibold">{fileId.toUpperCase()}</span>: {steps.join('; ')}
            </p>
          ))}
        </details>
      )}
    </div>
  );
}

/** The same sentence about two files of a brief is said once. */
function joined(findings: readonly Finding[]): Finding[] {
  return findings.filter(
    (finding, i) => findings.findIndex(({ sentence }) => sentence === finding.sentence) === i,
  );
}

function Row({ finding }: { finding: Finding }) {
  const { icon: Icon, word, className } = signs[finding.verdict];
  return (
    <li className="flex gap-2">
      <span className={`${className} mt-0.5 shrink-0`} title={word}>
        <Icon size={15} aria-hidden />
        <span className="sr-only">{word}: </span>
      </span>
      <span>
        {finding.sentence}
        {finding.verdict === 'convert' && (
          <span className="text-soft block text-xs">
            {finding.found} → {finding.wanted}, which the brief asks for
          </span>
        )}
      </span>
    </li>
  );
}
