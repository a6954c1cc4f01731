import { closeLab, forgetDoneActs, openLab } from '@dusk-tally/lab';
import { bringUpToDate } from '@dusk-tally/lab/evidence';
import { makeFirstAdmin, shutOutDemoPeople } from '@dusk-tally/lab/people';

const lab = openLab({
  databaseUrl: process.env.DUSK_DATABASE_URL!,
  workerFile: process.env.DUSK_WORKER_FILE!,
});
try {
  const ran = await lab.store.migrate();
  if (ran.length > 0) console.log(`Database brought up to date: ${ran.join(', ')}.`);
  await forgetDoneActs(lab);
  const { runs, changed } = await bringUpToDate(lab);
  if (runs > 0)
    console.log(
      `${runs} earlier results were computed again by today’s method; ${changed.length} cells stand otherwise than before:`,
    );
  for (const { cell, before, after } of changed) console.log(`  ${cell}: ${before} → ${after}`);
  for (const name of await shutOutDemoPeople(lab))
    console.log(`${name} is an account of the demo with a known password; it may not sign in.`);
  const {
    DUSK_ADMIN_EMAIL: email,
    DUSK_ADMIN_NAME: name,
    DUSK_ADMIN_PASSWORD: password,
  } = process.env;
  if (email && password) {
    const made = await makeFirstAdmin(lab, { email, name: name ?? email, role: 'admin', password });
    if (made) console.log(`First admin made: ${email}.`);
  } else if ((await lab.store.people.count({ role: { not: 'system' }, active: true })) === 0) {
    console.error(
      'Nobody can sign in yet: set DUSK_ADMIN_EMAIL and DUSK_ADMIN_PASSWORD once, then start again.',
    );
    process.exitCode = 1;
  }
} catch (error) {
  const { name, message } = error as Error;
  // A database that cannot be reached, or does not let this user in, is one line; anything else is a fault.
  if (!name.startsWith('Sequelize') || !/AccessDenied|Connection|HostNot/.test(name)) throw error;
  const { host, pathname } = new URL(process.env.DUSK_DATABASE_URL!);
  console.error(
    `Dusk Tally does not start: the database ${pathname.slice(1)} at ${host} ${
      name.includes('AccessDenied') ? 'refuses this user or password' : 'cannot be reached'
    } (DUSK_DATABASE_URL). ${message.split('\n')[0]}`,
  );
  process.exitCode = 1;
} finally {
  await closeLab(lab);
}
