import { useMemo, useSyncExternalStore } from 'react';
import type { Sound } from '@/wire';
import { columnsOf, onTile, type Columns, type Pictured, type View } from './tiles';

let arrived = 0;
onTile(() => arrived++);

/** The columns of a view as far as they are there; better ones follow. */
export function useColumns(of: Pictured, view: View, width: number): Columns | null {
  const tick = useSyncExternalStore(
    onTile,
    () => arrived,
    () => 0,
  );
  return useMemo(
    () => (width > 0 && of.frames > 0 && tick >= 0 ? columnsOf(of, view, width) : null),
    [of, view, width, tick],
  );
}

/** A sound's source, to be drawn. */
export function pictureOfSource({ id, sourceSha256, facts }: Sound): Pictured {
  return {
    key: sourceSha256,
    soundId: id,
    sourceSha256,
    recipe: null,
    frames: facts?.frames ?? 0,
    channels: facts?.channels ?? 0,
  };
}
