/** Opens the data folder when the server starts, so that jobs left by a crash go on at once. */
export async function register(): Promise<void> {
  if (process.env['NEXT_RUNTIME'] !== 'nodejs') return;
  const { bijou, endInOrder } = await import('@/server/instance');
  const { readAddresses } = await import('@/server/addresses');
  readAddresses();
  endInOrder();
  // Whoever asks for something is told as well why it cannot be opened.
  await bijou().catch((error: Error) => console.error(error.message));
}
