import { Command, CommanderError } from 'commander';
import { BijouError } from '@/core/errors';
import { addCheck } from './commands/check';
import { addConvert } from './commands/convert';
import { addFormats } from './commands/formats';
import { addProbe } from './commands/probe';
import { say, STATUS } from './report';

/** Runs the command line and answers the exit status. `args` are those behind the program's name. */
export async function main(args: readonly string[]): Promise<number> {
  // Whoever reads our lines may have seen enough, as `head` does.
  process.stdout.on('error', () => process.exit(STATUS.done));
  let status: number = STATUS.done;
  const finished = (value: number) => {
    status = value;
  };
  const program = new Command('bijou')
    .description(
      'Look at sounds, convert them, and hold them against what their destinations accept.',
    )
    .version('0.1.0')
    .exitOverride()
    .showHelpAfterError('Use `bijou help` to see how it is called.');
  addProbe(program, finished);
  addConvert(program, finished);
  addCheck(program, finished);
  addFormats(program);
  for (const command of program.commands) command.exitOverride();
  try {
    await program.parseAsync([...args], { from: 'user' });
    return status;
  } catch (error) {
    if (error instanceof CommanderError)
      return error.exitCode === 0 ? STATUS.done : STATUS.wrongCall;
    if (error instanceof BijouError) {
      say(`${error.message} ${error.hint}`);
      return STATUS.wrongCall;
    }
    throw error;
  }
}
