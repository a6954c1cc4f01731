import { chdir } from 'node:process';
import { ensureFiguresBundle } from './lib/figures-bundle.mjs';

const bundle = await ensureFiguresBundle();
chdir(process.env.INIT_CWD ?? process.cwd());
await import(bundle);
