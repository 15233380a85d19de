import { spawn } from 'node:child_process';
import { text } from 'node:stream/consumers';
import type { Table } from './types';

const bars: Readonly<Record<string, string>> = {
  'first job by mouse': '15 clicks',
  'first job by keys': '40 keys',
  'sending 60 sounds': '4 clicks',
};

/** What a person has to do: counted by the stories in the browser, which fail when it becomes more. */
export async function handsTable(): Promise<Table> {
  const run = spawn('npx', ['playwright', 'test', '-g', 'whole first job|four clicks'], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const found = [...(await text(run.stdout)).matchAll(/measured · (.+?): (\d+)/g)];
  return {
    title: 'Hands',
    note:
      'The whole first job: bring in three files, keep 10 to 25.5 s of one, fade it out, normalise it, send it to ' +
      'a destination, build, hear, download. And sending sixty sounds to a destination.',
    columns: ['what', 'presses', 'bar'],
    rows: found.map(([, what, presses]) => [what!, presses!, bars[what!] ?? '–']),
  };
}
