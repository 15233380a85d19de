/** Opens the data folder when the server starts, so that jobs left by a crash go on at once. */
export async function register(): Promise<void> {
  if (process.env['NEXT_RUNTIME'] !== 'nodejs') return;
  const { bijou, closeBijou } = await import('@/server/instance');
  for (const signal of ['SIGINT', 'SIGTERM'] as const) {
    // Pages that are open hold connections that never end by themselves: nobody waits for them.
    process.once(signal, () => void closeBijou().finally(() => process.exit()));
  }
  await bijou();
}
