/** A change by what tells it from others, and in words. */
export interface NamedChange {
  id: number;
  title: string;
}

/** What undo and redo would do next; null for nothing. */
export interface History {
  undo: NamedChange | null;
  redo: NamedChange | null;
}

/** What was undone or done again, and what would be next. */
export interface Gone extends History {
  title: string | null;
}

/** What came of changing sounds. */
export interface Changed {
  /** How many are other than before. */
  changed: number;
  /** The step of the history that this was; null for none. */
  changeId: number | null;
  /** What the next change can be made on. */
  revision: number;
}
