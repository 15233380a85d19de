import { Island } from './Island';

const none: ReadonlySet<string> = new Set();

/** The island in small. */
export function IslandThumb() {
  return (
    <div className="h-44 overflow-hidden" aria-hidden>
      <Island water={0.3} at={null} heard={false} silent={none} />
    </div>
  );
}
