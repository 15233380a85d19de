import type { ComponentType } from 'react';
import { FilterScene } from './filter/FilterScene';
import { FilterThumb } from './filter/FilterThumb';
import { IslandThumb } from './mod/IslandThumb';
import { ModScene } from './mod/ModScene';
import type { SceneProps } from './sceneProps';

/** The picture of each host, and what one does there: by the ids of the hosts. */
export const scenes: Readonly<
  Record<string, { Scene: ComponentType<SceneProps>; Thumb: ComponentType; keys: string }>
> = {
  filter: {
    Scene: FilterScene,
    Thumb: FilterThumb,
    keys: 'T taps, O opens the filter, A B H mouth, blink and hand, R records',
  },
  mod: {
    Scene: ModScene,
    Thumb: IslandThumb,
    keys: '← → walk, N goes to the turn of the tide, / plays a call',
  },
};
