import { errorFacts } from '../errors';

/** met: as it has to be · refused: the host takes it not · warning: it is taken, but look at it. */
export type Verdict = 'met' | 'refused' | 'warning';

/** One thing that a host has looked at. */
export interface Check {
  /** In the pack; the pack's own name for what concerns all of it. */
  file: string;
  /** Which rule of the host, by its id. */
  rule: string;
  asked: string;
  found: string;
  verdict: Verdict;
  /** What to do about it; only where it is not met. */
  cure?: string;
  /** The id of the call that it is about. */
  call?: string;
}

/** What is said of a file that does not do: the rule, what was found, and what cures it. */
export type Objection = Omit<Check, 'file' | 'verdict'> & { cure: string };

/** Collects what a host looks at, in its order, and writes down when it did what. */
export class Checking {
  readonly checks: Check[] = [];
  readonly log: { atMs: number; text: string }[] = [];
  private readonly refusedFiles = new Set<string>();

  constructor(private readonly now: () => number) {}

  met(file: string, rule: string, asked: string, found: string): void {
    this.checks.push({ file, rule, asked, found, verdict: 'met' });
  }

  refuse(file: string, objection: Objection): void {
    this.checks.push({ file, verdict: 'refused', ...objection });
    this.refusedFiles.add(file);
    this.say(`Refused ${file}: ${objection.found}. Asked: ${objection.asked}.`);
  }

  warn(file: string, objection: Objection): void {
    this.checks.push({ file, verdict: 'warning', ...objection });
    this.say(`Took ${file}, but: ${objection.found}.`);
  }

  /** Writes a line into the log. */
  say(text: string): void {
    this.log.push({ atMs: this.now(), text });
  }

  isRefused(file: string): boolean {
    return this.refusedFiles.has(file);
  }

  get isAccepted(): boolean {
    return this.refusedFiles.size === 0;
  }
}

/** An error as an objection against the file that has it. */
export function objectionOf(error: unknown, rule: string, asked: string): Objection {
  const { message, hint } = errorFacts(error);
  return { rule, asked, found: message.replace(/\.$/, ''), cure: hint };
}
