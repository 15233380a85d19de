import type { Command } from 'commander';

export function fillBriefs(command: Command, done: (status: number) => void): void {
  command
    .argument('[id]', 'only this one')
    .option(
      '--json',
      'print JSON: an array of briefs as their files hold them, with what they demand',
    )
    .action(async (id: string | undefined, { json = false }: { json?: boolean }) => {
      const { runBriefs } = await import('../build/briefs');
      done(await runBriefs(id, json));
    });
}
