import { stat } from 'node:fs/promises';
import { BijouError } from '@/core/errors';
import { isTold, stoppable } from '../ending';
import { STANDARD, StandardInput, type Place } from '../inputs';
import { measureListing, type ListedFile, type Listing } from '../listing';
import { OutputClosed, OutputFault, say } from '../output';
import { Report, type FileResult, type Manner } from '../report';
import { fileError } from '../disk/trouble';
import { Crew, threadCount } from './crew';
import { inOrder } from './inOrder';
import type { Results, Task } from './tasks';

/** A file that is being worked on. */
export interface Input {
  file: ListedFile;
  place: Place;
  /** Counts from 0, in the order of the call. */
  index: number;
  /** The first file, when it is soon done: something is said before threads have begun. */
  isHere: boolean;
}

/** A file that is soon done, in bytes. */
const SMALL_BYTES = 1 << 20;

/** What is done with every file of a call. */
export interface Doing<Looked, Prepared> {
  /** Looks at a file, many at a time. */
  look(input: Input): Promise<Looked>;
  /** Decides what becomes of it: one file after the other, in their order. */
  prepare(input: Input, looked: Looked): Promise<Prepared> | Prepared;
  /** Does it, many at a time. */
  work(input: Input, prepared: Prepared): Promise<FileResult>;
  /** Takes away what is not finished. */
  tidy?(): Promise<void>;
}

type Step<Value> = { input: Input; value: Value } | { input: Input; error: unknown };

/** The files of one call, worked on by several at a time and reported in their order. */
export class Batch {
  readonly report: Report;
  private readonly standard = new StandardInput();
  /** Nothing more is begun. */
  private isHalted = false;
  /** Threads begin behind a first file that is done right here: together they would hold each other up. */
  private readonly first: Promise<void>;
  private firstIsDone: () => void = () => undefined;

  private constructor(
    private readonly listing: Listing,
    readonly crew: Crew,
    manner: Manner,
  ) {
    this.report = new Report(manner);
    this.first = new Promise((done) => (this.firstIsDone = done));
    if (this.report.progress.isShown && !listing.isSingle) {
      void measureListing(listing).then((total) => this.report.progress.expect(total));
    }
  }

  /**
   * `threads` as it was typed; `isManifold` says that a single file, too, gives several of them something to do, and for
   * long.
   * @throws wrong-call
   */
  static async of(
    listing: Listing,
    threads: string | undefined,
    manner: Manner,
    isManifold = false,
  ): Promise<Batch> {
    const count = threadCount(threads);
    const crew = new Crew(listing.isSingle && !isManifold ? 1 : count, isManifold);
    return new Batch(listing, crew, manner);
  }

  /** Answers the exit status. `say`s nothing but what files have in common. */
  run<Looked, Prepared>(doing: Doing<Looked, Prepared>): Promise<number> {
    const stop = () => {
      this.isHalted = true;
      const ended = this.crew.stop();
      // Whoever waits for it is told that it is over.
      this.firstIsDone();
      return ended;
    };
    const isFragile = () => this.crew.isFragile;
    const tell = (isOver: boolean) => this.tellStopped(isOver);
    return stoppable({ stop, isFragile, tell }, () => this.worked(doing));
  }

  private async worked<Looked, Prepared>(doing: Doing<Looked, Prepared>): Promise<number> {
    try {
      for await (const { file, result } of this.results(doing)) {
        // Nobody hears any more what comes of the others.
        if (result instanceof OutputClosed || result instanceof OutputFault) throw result;
        if (result instanceof Error) {
          if (result instanceof BijouError && result.code === 'cancelled') continue;
          await this.report.failed(file, result);
        } else await this.report.went(file, result);
      }
    } finally {
      await this.crew.close();
      await doing.tidy?.();
      await this.standard.drop();
    }
    const status = await this.report.end();
    if (this.isHalted && !isTold()) say('The files behind it were not begun.');
    return status;
  }

  /** What a person wants to know who stopped it. */
  private async tellStopped(isOver: boolean): Promise<void> {
    const { files, failed } = this.report.done;
    if (!isOver) await this.report.breakOff();
    say(`Stopped: ${files - failed} done and whole, nothing half-finished was kept.`);
  }

  /** Has a task done that is about a file. */
  async do<Kind extends Task['kind']>(
    { isHere }: Input,
    task: Extract<Task, { kind: Kind }>,
  ): Promise<Results[Kind]> {
    if (!isHere) await this.first;
    return this.crew.do(task, isHere);
  }

  private async *results<Looked, Prepared>(doing: Doing<Looked, Prepared>) {
    const { width } = this.crew;
    const looked = inOrder(this.inputs(), width, (input) =>
      attempt(input, () => {
        if (input.file.error) throw input.file.error;
        return this.placed(input).then((placed) => doing.look(placed));
      }),
    );
    yield* inOrder(this.prepared(looked, doing), width, async (step) => {
      const { file } = step.input;
      const done =
        'error' in step
          ? step
          : await attempt(step.input, () => doing.work(step.input, step.value));
      if (step.input.index === 0) this.firstIsDone();
      if ('value' in done) return { file, result: done.value };
      // A full disk takes no more files either.
      if (fileError(done.error).code === 'disk') this.isHalted = true;
      return { file, result: done.error as Error };
    });
  }

  private async *inputs(): AsyncGenerator<Input> {
    let index = 0;
    for await (const file of this.listing.files()) {
      if (this.isHalted) return;
      yield { file, place: file.place, index: index++, isHere: false };
    }
  }

  private async placed(input: Input): Promise<Input> {
    if (input.file.place === STANDARD) input.place = await this.standard.place();
    if (input.index === 0) {
      const size = await sizeOf(input.place);
      input.isHere = size !== null && size < SMALL_BYTES;
      if (!input.isHere) this.firstIsDone();
    }
    return input;
  }

  private async *prepared<Looked, Prepared>(
    looked: AsyncIterable<Step<Looked>>,
    doing: Doing<Looked, Prepared>,
  ): AsyncGenerator<Step<Prepared>> {
    for await (const step of looked) {
      if (this.isHalted) return;
      if ('error' in step) yield step;
      else yield await attempt(step.input, async () => doing.prepare(step.input, step.value));
    }
  }
}

async function sizeOf(place: Place): Promise<number | null> {
  return stat(place).then(
    ({ size }) => size,
    () => null,
  );
}

async function attempt<Value>(input: Input, work: () => Promise<Value>): Promise<Step<Value>> {
  try {
    return { input, value: await work() };
  } catch (error) {
    return { input, error };
  }
}
