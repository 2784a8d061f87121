/** Opens the data folder when the server starts, so that the first request finds the indexes open. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs') return;
  const { runtime } = await import('@/server/runtime');
  runtime();
}
