/** Called by the framework once the server is up: schedules and plans are looked at every minute from then on. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs') return;
  const { Cron } = await import('croner');
  const { fetchAllDue } = await import('./app/server/fetching');
  const { billAllDue } = await import('./app/server/plans');
  new Cron('* * * * *', { protect: true, unref: true }, async () => {
    await billAllDue();
    await fetchAllDue();
  });
}
