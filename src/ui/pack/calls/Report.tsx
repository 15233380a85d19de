import type { IndexReport } from '@/core/pack/calls/readIndex';
import { plural } from '../../shared/format';

const MOST_SHOWN = 100;

/** What is wrong in an index, and how it stands to the files that are here. */
export function Report({ report: { problems, missing, unused } }: { report: IndexReport }) {
  const isRight = problems.length === 0 && (missing ?? []).length === 0;
  return (
    <div className="min-w-0 space-y-4" role="status">
      {isRight && <p className="text-success font-semibold">The index is right.</p>}
      {problems.length > 0 && (
        <section aria-label="Problems">
          <h3 className="text-warning font-semibold">{plural(problems.length, 'problem')}</h3>
          <ul className="max-h-72 overflow-y-auto" tabIndex={0} aria-label="Problems by line">
            {problems.slice(0, MOST_SHOWN).map(({ line, column, message, mend }, i) => (
              <li
                key={i}
                className="border-base-300 grid grid-cols-[5.5rem_minmax(0,1fr)] gap-2 border-b py-1 last:border-0"
              >
                <span className="text-soft text-xs">
                  line {line}, {column}
                </span>
                <span>
                  {message}
                  {mend && <span className="text-soft"> — {mend}</span>}
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
      <Paths title="Paths that lead nowhere" paths={missing} className="text-warning" />
      <Paths title="Sounds that nothing plays" paths={unused} className="" />
    </div>
  );
}

function Paths({
  title,
  paths,
  className,
}: {
  title: string;
  paths: readonly string[] | null;
  className: string;
}) {
  if (!paths || paths.length === 0) return null;
  return (
    <section aria-label={title}>
      <h3 className={`font-semibold ${className}`}>
        {title} ({paths.length})
      </h3>
      <ul className="max-h-48 overflow-y-auto" tabIndex={0} aria-label={`${title}, listed`}>
        {paths.slice(0, MOST_SHOWN).map((path) => (
          <li key={path} className="break-all">
            {path}
          </li>
        ))}
      </ul>
    </section>
  );
}
