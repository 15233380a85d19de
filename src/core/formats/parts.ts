import { damagedHeader } from './problems';

/**
 * Most parts beside the sound that a file is believed to have: chunks, blocks, boxes, tags. Real files have
 * a few dozen; what has thousands was made to keep its reader busy.
 */
const MOST_PARTS = 4_096;
/** Most bytes of such parts that are kept, pictures in tags included. */
const MOST_PART_BYTES = 32 << 20;

/** Counts the parts of one file. */
export class PartCounter {
  private parts = 0;
  private bytes = 0;

  constructor(
    private readonly what: string,
    private readonly most = MOST_PARTS,
  ) {}

  /** @throws damaged-header when a part is one too many */
  add(byteOffset: number): void {
    if (++this.parts > this.most) {
      throw damagedHeader(`${this.what} has more than ${this.most} parts`, byteOffset);
    }
  }

  /** Whether there is room for the contents of a part; they count from now on. */
  keep(bytes: number): boolean {
    if (this.bytes + bytes > MOST_PART_BYTES) return false;
    this.bytes += bytes;
    return true;
  }
}
