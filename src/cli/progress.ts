import prettyBytes from 'pretty-bytes';
import { count } from '@/core/tradeNames';
import { formatTime } from '@/core/time';

/** What has been done so far. */
export interface Done {
  files: number;
  failed: number;
  /** Length of the sound, in seconds. */
  seconds: number;
  bytesBefore: number;
  bytesAfter: number;
}

const EVERY_MS = 100;
/** Until then nothing can be said of the time that is left. */
const LEAST_MS = 1_500;

/** Whether messages go to a terminal on which a line can be drawn anew. */
export function isTerminal(): boolean {
  return process.stderr.isTTY === true && process.env['TERM'] !== 'dumb';
}

/** A line on a terminal that says how far a call has come, and goes when something else is said. */
export class Progress {
  private readonly began = performance.now();
  private drawnAt = 0;
  private isDrawn = false;
  private total: { files: number; bytes: number } | null = null;

  constructor(readonly isShown: boolean) {}

  expect(total: { files: number; bytes: number }): void {
    this.total = total;
  }

  get ms(): number {
    return performance.now() - this.began;
  }

  draw(done: Done): void {
    if (!this.isShown || performance.now() - this.drawnAt < EVERY_MS) return;
    this.drawnAt = performance.now();
    const width = (process.stderr.columns ?? 80) - 1;
    process.stderr.write(`\r\x1b[K${this.line(done).slice(0, width)}`);
    this.isDrawn = true;
  }

  clear(): void {
    if (!this.isDrawn) return;
    process.stderr.write('\r\x1b[K');
    this.isDrawn = false;
  }

  private line(done: Done): string {
    const { total, ms } = this;
    const parts = [
      total ? `${count(done.files)} of ${count(total.files)} files` : `${count(done.files)} files`,
      done.failed > 0 ? `${count(done.failed)} failed` : '',
      prettyBytes(done.bytesBefore),
      ms > LEAST_MS ? timesRealTime(done.seconds, ms) : '',
      total && ms > LEAST_MS ? timeLeft(done.bytesBefore, total.bytes, ms) : '',
    ];
    return parts.filter((part) => part !== '').join(' · ');
  }
}

/** "65 × real time". */
export function timesRealTime(seconds: number, ms: number): string {
  const times = seconds / (ms / 1000);
  return `${times >= 10 ? Math.round(times) : times.toFixed(1)} × real time`;
}

function timeLeft(done: number, total: number, ms: number): string {
  if (done === 0 || done >= total) return '';
  return `about ${formatTime(((total - done) / done) * (ms / 1000), 0)} left`;
}
