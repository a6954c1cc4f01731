import { closeLab, openLab, verifyAudit } from '@dusk-tally/lab';
import { shutOutDemoPeople } from '@dusk-tally/lab/people';

// Whether a database that was loaded from a backup is a lab this version can go on with.
const lab = openLab({
  databaseUrl: process.env.DUSK_DATABASE_URL!,
  workerFile: process.env.DUSK_WORKER_FILE!,
});
try {
  const unknown = await lab.store.unknownMigrations();
  if (unknown.length > 0)
    throw new Error(
      `The backup was made by a newer version (${unknown.join(', ')}). Restore it with that one. Nothing was changed.`,
    );
  await lab.store.migrate();
  const broken = await verifyAudit(lab);
  if (broken !== null)
    throw new Error(
      `The record of acts of the backup is broken at entry ${broken}: it was changed by hand. Nothing was changed.`,
    );
  if (!process.env.DUSK_RESTORED_DEMO)
    for (const name of await shutOutDemoPeople(lab))
      console.log(`${name} is an account of the demo with a known password; it may not sign in.`);
} catch (error) {
  console.error((error as Error).message);
  process.exitCode = 1;
} finally {
  await closeLab(lab);
}
