import { Command, CommanderError } from 'commander';
import { BijouError } from '@/core/errors';
import { BIJOU_VERSION } from '@/core/version';
import { OutputClosed, OutputFault, say } from './output';
import { STATUS } from './status';

/** Puts what a command takes to it; `done` gets the exit status of what it did. */
type Fill = (command: Command, done: (status: number) => void) => void;

/** Every command. What it takes and does is loaded when it is called: helping is quick. */
const commands: Record<string, { says: string; load: () => Promise<Fill> }> = {
  probe: {
    says: 'say what each file is: format, rate, channels, length, levels, worries',
    load: async () => (await import('./commands/probe')).fillProbe,
  },
  convert: {
    says: 'write each file in another form, decode the result again and report it',
    load: async () => (await import('./commands/convert')).fillConvert,
  },
  check: {
    says: 'say whether a destination would take these files as they are, and if not, why',
    load: async () => (await import('./commands/check')).fillCheck,
  },
  loop: {
    says: 'look at the seams of loops, and make them: crossfades, tails, pieces, what is handed over',
    load: async () => (await import('./commands/loop')).fillLoop,
  },
  build: {
    says: 'build what a project sends to its destinations into a folder, and prove each file',
    load: async () => (await import('./commands/build')).fillBuild,
  },
  pack: {
    says: 'build what is out of date, lay it out as its destination wants it, and write it as a zip or folder',
    load: async () => (await import('./commands/pack')).fillPack,
  },
  rehearse: {
    says: 'bring a pack to a small stand-in of its destination, and hear what it thinks of every file',
    load: async () => (await import('./commands/rehearse')).fillRehearse,
  },
  index: {
    says: 'look at an index of calls, or any JSON that names files: what is wrong in it, and mend it',
    load: async () => (await import('./commands/indexFile')).fillIndex,
  },
  compare: {
    says: 'try codec settings on files: size, what decoding costs, and what one hears of it',
    load: async () => (await import('./commands/compare')).fillCompare,
  },
  reference: {
    says: 'write a signal whose answer to a codec is known: noise, tones, clicks, a voice …',
    load: async () => (await import('./commands/reference')).fillReference,
  },
  briefs: {
    says: 'say what destinations demand, and what they leave open',
    load: async () => (await import('./commands/briefs')).fillBriefs,
  },
  formats: {
    says: 'say what can be read, and what can be written with which rates and channels',
    load: async () => (await import('./commands/formats')).fillFormats,
  },
};

/** Runs the command line and answers the exit status. `args` are those behind the program's name. */
export async function main(args: readonly string[]): Promise<number> {
  let status: number = STATUS.done;
  const finished = (value: number) => {
    status = value;
  };
  const program = new Command('bijou')
    .description(
      'Look at sounds, convert them, and hold them against what their destinations accept.',
    )
    .version(BIJOU_VERSION)
    .exitOverride()
    .showHelpAfterError('Use `bijou help` to see how it is called.');
  for (const [name, { says, load }] of Object.entries(commands)) {
    const command = program.command(name).description(says).exitOverride();
    if (args.includes(name)) (await load())(command, finished);
  }
  try {
    await program.parseAsync([...args], { from: 'user' });
    return status;
  } catch (error) {
    if (error instanceof CommanderError)
      return error.exitCode === 0 ? STATUS.done : STATUS.wrongCall;
    if (error instanceof OutputClosed) return STATUS.done;
    if (error instanceof OutputFault) {
      say(`${error.message} ${error.hint}`);
      return STATUS.someFailed;
    }
    if (error instanceof BijouError) {
      say(`${error.message} ${error.hint}`);
      return STATUS.wrongCall;
    }
    throw error;
  }
}
