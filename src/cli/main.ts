import { Command, CommanderError } from 'commander';
import { BijouError } from '@/core/errors';
import { addCheck } from './commands/check';
import { addConvert } from './commands/convert';
import { addFormats } from './commands/formats';
import { addProbe } from './commands/probe';
import { OutputClosed, OutputFault, say } from './output';
import { STATUS } from './report';

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
