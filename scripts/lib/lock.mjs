import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdirSync } from 'node:fs';
import { dirname } from 'node:path';

/** Waits so long before it says that it waits, ms. */
const PATIENCE_MS = 400;

/**
 * Does `work` while no other process of this checkout does; waits for one that is at it. The lock
 * is the kernel’s (flock), kept by a child that ends with this process however it ends: a killed
 * process leaves none behind. The file itself stays.
 */
export async function alone(file, work) {
  mkdirSync(dirname(file), { recursive: true });
  // In a group of its own: Ctrl-C ends this process first, and the lock after it.
  const holder = spawn('flock', ['--exclusive', file, 'sh', '-c', 'echo held; exec cat'], {
    stdio: ['pipe', 'pipe', 'inherit'],
    detached: true,
  });
  const gone = once(holder, 'exit');
  const refused = gone.then(([code]) => {
    throw new Error(`Expected to lock ${file}; flock ended with ${code}.`);
  });
  const patience = setTimeout(
    () => console.error('Waiting for another command that sets things up …'),
    PATIENCE_MS,
  );
  try {
    await Promise.race([once(holder.stdout, 'data'), refused]);
  } finally {
    clearTimeout(patience);
    refused.catch(() => undefined);
  }
  try {
    return await work();
  } finally {
    holder.stdin.end();
    await gone;
  }
}
