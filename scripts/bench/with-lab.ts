import { type Actor, closeLab, type Lab, openLab } from '@dusk-tally/lab';

/** Work on the lab of the bench as its admin; the lab is closed after it, however it ends. */
export async function withLab(work: (lab: Lab, actor: Actor) => Promise<void>): Promise<void> {
  const lab = openLab({
    databaseUrl: process.env.DUSK_DATABASE_URL!,
    workerFile: process.env.DUSK_WORKER_FILE!,
  });
  try {
    const person = (await lab.store.people.one({ role: 'admin' }))!;
    await work(lab, { id: person.id, name: person.name, role: person.role });
  } finally {
    await closeLab(lab);
  }
}
