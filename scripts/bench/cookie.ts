import { writeFileSync } from 'node:fs';
import { signIn } from './sign-in';

/** A signed-in person’s cookie, for programs that only look. */
writeFileSync(process.env.DUSK_COOKIE!, await signIn(process.env.DUSK_ADDRESS!), { mode: 0o600 });
