/** Something sudden in one channel, with what belongs there if it is a click by itself. */
interface Sudden {
  startFrame: number;
  /** How far it was from what was foreseen. */
  peak: number;
  samples: Float32Array | null;
}

/** As far as this a wave may repeat: down to 20 Hz. */
const REPEATS_SECONDS = 0.05;
/** Sudden places like it within that time on both sides with which something is a click still. */
const MOST_ALIKE = 5;
/** The same within a sixth of that time. */
const MOST_ALIKE_NEAR = 1;
/** Peaks down to this share of its own, or larger ones, are like it; of what cannot be a click, down to that. */
const ALIKE = 0.4;
const ALIKE_OTHERS = 0.6;
/** Repetitions of a wave differ in size by less than this ratio, and in distance by less than that share. */
const SAME = 1.6;
const JITTER = 0.02;

/** Tells clicks, which are single, from waves, whose sudden places repeat, and from what is sudden all over. */
export class ClickJudge {
  private readonly around: number;
  private list: Sudden[] = [];
  private judged = 0;

  constructor(
    rateHz: number,
    private readonly onClick: (click: { startFrame: number; samples: Float32Array }) => void,
  ) {
    this.around = Math.round(REPEATS_SECONDS * rateHz);
  }

  /** Something sudden that is no click. In order of time, like `candidate`. */
  sudden(startFrame: number, peak: number): void {
    this.add({ startFrame, peak, samples: null });
  }

  /** Something that a replacement of `samples` would explain. */
  candidate(startFrame: number, samples: Float32Array, peak: number): void {
    this.add({ startFrame, peak, samples });
  }

  finish(): void {
    this.judgeUpTo(Infinity);
  }

  private add(found: Sudden): void {
    this.list.push(found);
    this.judgeUpTo(found.startFrame - 2 * this.around);
  }

  /** Judges what has everything around it on the list, and forgets what nothing needs any more. */
  private judgeUpTo(frame: number): void {
    while (this.judged < this.list.length && this.list[this.judged]!.startFrame < frame) {
      const { startFrame, samples } = this.list[this.judged]!;
      if (samples && this.isSingle(this.judged)) this.onClick({ startFrame, samples });
      this.judged++;
    }
    const oldest = this.list[this.judged]?.startFrame ?? 0;
    const gone = this.list.findIndex(({ startFrame }) => startFrame >= oldest - 2 * this.around);
    if (gone > 1_000) {
      this.list = this.list.slice(gone);
      this.judged -= gone;
    }
  }

  private isSingle(at: number): boolean {
    const { startFrame, peak } = this.list[at]!;
    const alike = this.alike(at, peak);
    const within = (frames: number) =>
      alike.filter((other) => Math.abs(other.startFrame - startFrame) <= frames).length;
    if (within(this.around) > MOST_ALIKE || within(this.around / 6) > MOST_ALIKE_NEAR) return false;
    const equals = alike.filter((other) => other.peak < peak * SAME && other.peak * SAME > peak);
    return !repeats(
      startFrame,
      equals.map((other) => other.startFrame),
      this.around,
    );
  }

  /** Everything alike within twice the longest repetition. */
  private alike(at: number, peak: number): Sudden[] {
    const frame = this.list[at]!.startFrame;
    const found: Sudden[] = [];
    const look = (i: number, by: number) => {
      for (; this.list[i]; i += by) {
        const other = this.list[i]!;
        if (Math.abs(other.startFrame - frame) > 2 * this.around) return;
        const share = other.samples ? ALIKE : ALIKE_OTHERS;
        if (other.peak > share * peak) found.push(other);
      }
    };
    look(at - 1, -1);
    look(at + 1, 1);
    return found;
  }
}

/** Whether `frame` is one of three places at equal distances. */
function repeats(frame: number, others: readonly number[], around: number): boolean {
  const has = (place: number, slack: number) =>
    others.some((other) => Math.abs(other - place) <= slack);
  return others.some((other) => {
    const distance = other - frame;
    if (Math.abs(distance) > around) return false;
    const slack = Math.max(1, JITTER * Math.abs(distance));
    return has(frame + 2 * distance, slack) || has(frame - distance, slack);
  });
}
