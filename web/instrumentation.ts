/** Time between looks at what the app does by itself, ms. */
const EVERY_MS = 15_000;

/** Runs once in each process of the app, before it answers. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs' || !process.env.DUSK_DATABASE_URL) return;
  const { watchSoon } = await import('./lib/watch');
  setInterval(watchSoon, EVERY_MS).unref();
}
