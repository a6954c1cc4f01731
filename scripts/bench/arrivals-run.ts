import { largeLot, riskPlans } from './arrivals';
import { signIn } from './sign-in';
import { withLab } from './with-lab';

const address = process.env.DUSK_ADDRESS!;
await withLab(async (lab, actor) => {
  await riskPlans();
  await largeLot(lab, actor, { address, cookie: await signIn(address) });
});
