import type { Block } from '../pcm/pcm';

/** A thumbnail has between so many columns and twice as many; shorter sounds one for every frame. */
const LEAST_COLUMNS = 60;
const FULL = 127;

/**
 * The small picture of a whole sound, all channels laid over each other, made while it streams past,
 * however long it is: whenever there are too many columns, each two become one.
 */
export class ThumbnailBuilder {
  private columns: { min: number; max: number; squares: number }[] = [];
  private framesPerColumn = 1;
  private filled = 0;

  push(block: Block): void {
    const frames = block[0]?.length ?? 0;
    for (let at = 0; at < frames;) {
      if (this.filled === 0) this.begin();
      const take = Math.min(this.framesPerColumn - this.filled, frames - at);
      const column = this.columns.at(-1)!;
      for (const channel of block) {
        let { min, max, squares } = column;
        for (let i = at; i < at + take; i++) {
          const x = channel[i]!;
          if (x < min) min = x;
          if (x > max) max = x;
          squares += (x * x) / block.length;
        }
        Object.assign(column, { min, max, squares });
      }
      at += take;
      this.filled = (this.filled + take) % this.framesPerColumn;
    }
  }

  private begin(): void {
    if (this.columns.length === 2 * LEAST_COLUMNS) {
      this.columns = Array.from({ length: LEAST_COLUMNS }, (_, i) => {
        const [a, b] = [this.columns[2 * i]!, this.columns[2 * i + 1]!];
        return {
          min: Math.min(a.min, b.min),
          max: Math.max(a.max, b.max),
          squares: a.squares + b.squares,
        };
      });
      this.framesPerColumn *= 2;
    }
    this.columns.push({ min: Infinity, max: -Infinity, squares: 0 });
  }

  /** Base64 of `[min, max, rms]` a column, each as a signed byte of which 127 is full scale. */
  finish(): string {
    const last = this.columns.length - 1;
    const byte = (x: number) => Math.round(Math.max(-1, Math.min(1, x)) * FULL) & 0xff;
    const bytes = this.columns.flatMap(({ min, max, squares }, i) => {
      const frames = i === last && this.filled > 0 ? this.filled : this.framesPerColumn;
      return [byte(min), byte(max), byte(Math.sqrt(squares / frames))];
    });
    return btoa(String.fromCharCode(...bytes));
  }
}

/** What `finish` wrote, as `[min, max, rms]` a column, each −1 … 1. */
export function thumbnailColumns(thumbnail: string): number[] {
  return Array.from(atob(thumbnail), (letter) => ((letter.charCodeAt(0) << 24) >> 24) / FULL);
}
