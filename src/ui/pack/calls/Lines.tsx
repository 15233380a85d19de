/** So many lines that are other are shown. */
const MOST_SHOWN = 40;

/** The lines that mending changes, as they are and as they would be. */
export function Lines({ before, after }: { before: string; after: string }) {
  const [old, now] = [before.split('\n'), after.split('\n')];
  // Mending adds signs, and takes some away; lines are hardly ever other in number.
  const changed =
    old.length === now.length
      ? now.flatMap((line, i) =>
          line === old[i] ? [] : [{ number: i + 1, from: old[i]!, to: line }],
        )
      : null;
  return (
    <section aria-label="What mending changes" className="border-base-300 bg-base-100 mt-3 border">
      <h3 className="border-base-300 border-b px-3 py-1.5 font-serif text-lg">
        What mending changes
      </h3>
      {changed === null ? (
        <pre className="max-h-64 overflow-auto p-3 text-xs" tabIndex={0} aria-label="Mended text">
          {after.slice(0, 20_000)}
        </pre>
      ) : (
        <ul
          className="max-h-64 overflow-auto py-1 font-mono text-xs"
          tabIndex={0}
          aria-label="Changed lines"
        >
          {changed.slice(0, MOST_SHOWN).map(({ number, from, to }) => (
            <li key={number} className="grid grid-cols-[3rem_minmax(0,1fr)] px-3 py-0.5">
              <span className="text-soft">{number}</span>
              <span className="whitespace-pre-wrap break-all">
                <del className="text-error block no-underline">− {from}</del>
                <ins className="text-success block no-underline">+ {to}</ins>
              </span>
            </li>
          ))}
          {changed.length > MOST_SHOWN && (
            <li className="text-soft px-3">and {changed.length - MOST_SHOWN} more</li>
          )}
        </ul>
      )}
    </section>
  );
}
