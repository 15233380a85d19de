import { Keeper } from './Keeper';

/** The stage in small. */
export function FilterThumb() {
  return (
    <div className="bg-base-200 flex h-44 justify-center overflow-hidden">
      <div className="border-base-content mt-3 w-28 overflow-hidden rounded-t-xl border-4 border-b-0">
        <Keeper isMouthOpen={false} isBlinking={false} isHandSeen={false} glow={0.5} />
      </div>
    </div>
  );
}
