import { type Actor, closeLab, openLab } from '@dusk-tally/lab';
import { largeLot, riskPlans } from './arrivals';
import { signIn } from './sign-in';

const address = process.env.DUSK_ADDRESS!;
const lab = openLab({
  databaseUrl: process.env.DUSK_DATABASE_URL!,
  workerFile: process.env.DUSK_WORKER_FILE!,
});
try {
  const person = (await lab.store.people.one({ role: 'admin' }))!;
  const actor: Actor = { id: person.id, name: person.name, role: person.role };
  await riskPlans();
  await largeLot(lab, actor, { address, cookie: await signIn(address) });
} finally {
  await closeLab(lab);
}
