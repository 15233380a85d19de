import { Command, CommanderError } from 'commander';
import { BijouError, isPassing, type ErrorFacts } from '@/core/errors';
import { either } from '@/core/tradeNames';
import { BIJOU_VERSION } from '@/core/version';
import { dropAllTemporaries } from './disk/temporaries';
import { fileError } from './disk/trouble';
import { heedSignals } from './ending';
import { errorJson, harmlessName, OutputClosed, OutputFault, printOn, say } from './output';
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
  const isJson = wantsJson(args);
  heedSignals(isJson);
  try {
    return await called(args);
  } catch (error) {
    if (error instanceof OutputClosed) return STATUS.done;
    if (error instanceof CommanderError && error.exitCode === 0) return STATUS.done;
    const facts = callError(error);
    // The parser of calls has said already what it has to say.
    if (!(error instanceof CommanderError)) say(harmlessName(`${facts.message} ${facts.hint}`));
    if (error instanceof OutputFault) return STATUS.someFailed;
    if (isJson) await printOn(errorJson(facts)).catch(() => undefined);
    return isShortOf(facts) ? STATUS.someFailed : STATUS.wrongCall;
  } finally {
    await dropAllTemporaries();
  }
}

/** Whether standard output has to be one whole JSON value, also of a call that is wrong. */
function wantsJson(args: readonly string[]): boolean {
  const end = args.indexOf('--');
  return args.slice(0, end < 0 ? undefined : end).includes('--json');
}

async function called(args: readonly string[]): Promise<number> {
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
  const [name] = args.filter((arg) => !arg.startsWith('-'));
  if (name !== undefined && name !== 'help' && !Object.hasOwn(commands, name)) {
    throw unknownCommand(name);
  }
  for (const [known, { says, load }] of Object.entries(commands)) {
    const command = program.command(known).description(says).exitOverride();
    if (args.includes(known)) (await load())(command, finished);
  }
  await program.parseAsync([...args], { from: 'user' });
  return status;
}

function unknownCommand(name: string): BijouError {
  return new BijouError(
    'wrong-call',
    `There is no command "${name}".`,
    `Use ${either(Object.keys(commands))}; \`bijou help\` says what each does.`,
  );
}

/** What was thrown, for people. */
function callError(error: unknown): ErrorFacts {
  if (error instanceof CommanderError) {
    const message = error.message.replace(/^error: /, '');
    return { code: 'wrong-call', message, hint: 'Use `bijou help` to see how it is called.' };
  }
  const facts = fileError(error);
  if (facts.code !== 'internal' || error instanceof BijouError) return facts;
  const { message = '' } = error as { message?: string };
  return { ...facts, message: `${facts.message} (${message})` };
}

/** Whether the call was right, and something else came between. */
function isShortOf(facts: ErrorFacts): boolean {
  return isPassing(facts) || facts.code === 'damaged-sound' || facts.code === 'changed-meanwhile';
}
