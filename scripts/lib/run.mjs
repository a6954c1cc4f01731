import { spawn } from 'node:child_process';
import { ROOT } from './paths.mjs';

const children = new Set();

/** Starts a child process that is stopped when this one ends. */
export function start(command, args, options = {}) {
  const child = spawn(command, args, { cwd: ROOT, stdio: 'inherit', ...options });
  children.add(child);
  child.once('exit', () => children.delete(child));
  return child;
}

/** Runs a command to its end. Rejects when it fails. */
export function run(command, args, options = {}) {
  return new Promise((resolve, reject) => {
    const child = start(command, args, options);
    let output = '';
    child.stdout?.on('data', (chunk) => (output += chunk));
    child.stderr?.on('data', (chunk) => (output += chunk));
    child.once('error', reject);
    child.once('exit', (code, signal) =>
      code === 0
        ? resolve(output)
        : reject(
            Object.assign(new Error(`${command} ${args.join(' ')} ended with ${signal ?? code}.`), {
              output,
              code,
            }),
          ),
    );
  });
}

/** Asks a process to end and waits; after ten seconds it is made to. */
export function stop(child, signal = 'SIGTERM') {
  if (!child || child.exitCode !== null || child.signalCode !== null) return Promise.resolve();
  return new Promise((resolve) => {
    const force = setTimeout(() => child.kill('SIGKILL'), 10_000);
    child.once('exit', () => {
      clearTimeout(force);
      resolve();
    });
    child.kill(signal);
  });
}

let stopping = null;

/** Calls `work` once on Ctrl-C or a request to end, then ends this process. */
export function onStop(work) {
  const handler = (signal) => {
    stopping ??= Promise.resolve(work(signal))
      .catch((error) => console.error(error.message))
      .then(() => Promise.all([...children].map((child) => stop(child))))
      .then(() => process.exit(signal === 'SIGINT' ? 130 : 143));
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => handler(signal));
}

/** Whether the process has been asked to end. */
export const isStopping = () => stopping !== null;
