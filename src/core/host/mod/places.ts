/** A place of the island, with the slot that its music lies in. */
export interface IslandPlace {
  id: string;
  title: string;
  file: string;
  /** The island does without it. */
  isOptional?: true;
}

/** In the order in which one walks there. */
export const islandPlaces: readonly IslandPlace[] = [
  { id: 'landing', title: 'the landing', file: 'places/landing.ogg' },
  { id: 'shore', title: 'the shore', file: 'places/shore.ogg' },
  { id: 'cave', title: 'the cave', file: 'places/cave.ogg', isOptional: true },
  { id: 'house', title: 'the keepers’ house', file: 'places/house.ogg' },
  { id: 'gallery', title: 'the gallery', file: 'places/gallery.ogg' },
  { id: 'lamp_room', title: 'the lamp room', file: 'places/lamp_room.ogg' },
];
