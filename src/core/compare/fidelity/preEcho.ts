import type { Block } from '../../pcm/pcm';

/** What a codec smears to the front of a sudden sound. */
export interface PreEcho {
  /** Where the sound begins suddenly. */
  seconds: number;
  /** The loudest millisecond of what was added before it, against the beginning; dB. */
  db: number;
  /** For how long before it something stands out that was not there. */
  ms: number;
}

/** So far back it is looked: no codec's window is longer by much. */
const BACK_MS = 60;
/** A beginning is as loud as the loudest millisecond of so many. */
const AHEAD_MS = 10;
const KEPT_MS = BACK_MS + AHEAD_MS;
/** Where in what is kept the millisecond lies that is judged. */
const NOW = BACK_MS;
/** A beginning is sudden when it rises so far above all that lay just before it, in dB … */
const RISE_DB = 25;
/** … within so long. */
const JUST_MS = 20;
/** What is added counts from so far above what was there, and down to so far below the beginning. */
const ABOVE_DB = 6;
const LEAST_DB = -80;
/** Quieter beginnings are none, as mean power of a millisecond. */
const QUIET_POWER = 1e-6;

/** Finds sudden beginnings in a source, and what was added in front of them; the worst one is kept. */
export class PreEchoMeter {
  private readonly blockFrames: number;
  /** Mean powers of past milliseconds: of the source, and of the difference. */
  private readonly own = new Float64Array(KEPT_MS);
  private readonly added = new Float64Array(KEPT_MS);
  private sums = { own: 0, added: 0, frames: 0 };
  private blocks = 0;
  private worst: PreEcho | null = null;
  private beginnings = 0;

  constructor(private readonly rateHz: number) {
    this.blockFrames = Math.max(1, Math.round(rateHz / 1000));
  }

  push(source: Block, decoded: Block): void {
    const frames = source[0]?.length ?? 0;
    const { sums } = this;
    for (let at = 0; at < frames;) {
      const end = Math.min(frames, at + this.blockFrames - sums.frames);
      source.forEach((own, c) => {
        const other = decoded[c]!;
        for (let i = at; i < end; i++) {
          const x = own[i]!;
          const y = other[i]! - x;
          sums.own += x * x;
          sums.added += y * y;
        }
      });
      sums.frames += end - at;
      at = end;
      if (sums.frames < this.blockFrames) continue;
      const samples = sums.frames * source.length;
      this.millisecond(sums.own / samples, sums.added / samples);
      this.sums.own = this.sums.added = this.sums.frames = 0;
    }
  }

  /** The worst beginning, and how many there were; null where none is sudden. */
  result(): { worst: PreEcho; beginnings: number } | null {
    // What begins within the last milliseconds is still to be judged.
    for (let i = 1; i < AHEAD_MS; i++) this.millisecond(0, 0);
    return this.worst && { worst: this.worst, beginnings: this.beginnings };
  }

  /** Judges the millisecond that lies as far back as is looked ahead. */
  private millisecond(own: number, added: number): void {
    this.own.copyWithin(0, 1);
    this.added.copyWithin(0, 1);
    this.own[KEPT_MS - 1] = own;
    this.added[KEPT_MS - 1] = added;
    this.blocks++;
    if (!this.isBeginning()) return;
    this.beginnings++;
    const found = this.before();
    if (!this.worst || found.db > this.worst.db) this.worst = found;
  }

  private isBeginning(): boolean {
    const own = this.own[NOW]!;
    if (own < QUIET_POWER || this.blocks < JUST_MS + AHEAD_MS) return false;
    return own > largest(this.own.subarray(NOW - JUST_MS, NOW)) * 10 ** (RISE_DB / 10);
  }

  private before(): PreEcho {
    const level = largest(this.own.subarray(NOW));
    const least = level * 10 ** (LEAST_DB / 10);
    let [most, ms] = [0, 0];
    for (let back = 1; back <= Math.min(BACK_MS, this.blocks); back++) {
      const added = this.added[NOW - back]!;
      if (added < least || added < this.own[NOW - back]! * 10 ** (ABOVE_DB / 10)) break;
      most = Math.max(most, added);
      ms = back;
    }
    const seconds = ((this.blocks - AHEAD_MS) * this.blockFrames) / this.rateHz;
    return { seconds, db: most > 0 ? 10 * Math.log10(most / level) : LEAST_DB, ms };
  }
}

function largest(powers: Float64Array): number {
  return powers.reduce((most, one) => Math.max(most, one), 0);
}
