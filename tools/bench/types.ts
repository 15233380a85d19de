/** One table of figures. */
export interface Table {
  title: string;
  /** What was done and how to read it, in a sentence or two. */
  note: string;
  columns: string[];
  rows: (string | number)[][];
}

/** Runs `work` a few times and answers the shortest time in seconds. */
export async function best(work: () => Promise<unknown> | unknown, times = 3): Promise<number> {
  let shortest = Infinity;
  for (let i = 0; i < times; i++) {
    const began = performance.now();
    await work();
    shortest = Math.min(shortest, (performance.now() - began) / 1000);
  }
  return shortest;
}

export function timesRealTime(soundSeconds: number, seconds: number): string {
  const times = soundSeconds / seconds;
  return `${times < 10 ? times.toFixed(1) : Math.round(times)} ×`;
}
