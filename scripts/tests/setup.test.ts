import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { missingPackages } from '../lib/setup.mjs';

const folder = mkdtempSync(join(tmpdir(), 'dusk-setup-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const lib = join(import.meta.dirname, '..', 'lib');

/** A project with two packages, one of them for another kind of machine. */
function project(name: string) {
  const root = join(folder, name);
  const packages = {
    '': { name },
    'node_modules/one': { version: '1.0.0', integrity: 'sha512-a' },
    'node_modules/two': { version: '2.0.0', integrity: 'sha512-b' },
    'node_modules/elsewhere': { version: '3.0.0', optional: true, os: ['plan9'] },
    core: { name: 'core' },
  };
  mkdirSync(join(root, 'node_modules'), { recursive: true });
  writeFileSync(join(root, 'package-lock.json'), JSON.stringify({ packages }));
  return {
    root,
    install: (path: string) => {
      mkdirSync(join(root, path), { recursive: true });
      writeFileSync(join(root, path, 'package.json'), '{}');
    },
    /** What npm writes last of all. */
    finish: (more: object = {}) =>
      writeFileSync(
        join(root, 'node_modules', '.package-lock.json'),
        JSON.stringify({ packages: { ...packages, 'node_modules/elsewhere': undefined, ...more } }),
      ),
  };
}

describe('what is installed', () => {
  it('by hand or by a command is honoured; broken off it is not', () => {
    const { root, install, finish } = project('hand');
    expect(missingPackages(root)).toContain('list');
    install('node_modules/one');
    install('node_modules/two');
    expect(missingPackages(root)).toContain('list');
    finish();
    expect(missingPackages(root)).toBeNull();
    // A killed installation takes away before it lays anew.
    rmSync(join(root, 'node_modules', 'two'), { recursive: true });
    expect(missingPackages(root)).toBe('node_modules/two');
  });
  it('of another lock file is not enough', () => {
    const { root, install, finish } = project('other');
    install('node_modules/one');
    install('node_modules/two');
    finish({ 'node_modules/two': { version: '1.9.0', integrity: 'sha512-old' } });
    expect(missingPackages(root)).toBe('node_modules/two');
  });
});

describe('two commands at once', () => {
  const script = (lock: string, log: string, ms: number) => `
    import { alone } from ${JSON.stringify(join(lib, 'lock.mjs'))};
    import { appendFileSync } from 'node:fs';
    await alone(${JSON.stringify(lock)}, async () => {
      appendFileSync(${JSON.stringify(log)}, 'in ');
      await new Promise((resolve) => setTimeout(resolve, ${ms}));
      appendFileSync(${JSON.stringify(log)}, 'out ');
    });`;
  const run = (lock: string, log: string, ms = 200) =>
    spawn(process.execPath, ['--input-type=module', '-e', script(lock, log, ms)], {
      stdio: 'ignore',
    });
  const ended = (child: ReturnType<typeof run>) =>
    new Promise((resolve) => child.once('exit', resolve));

  it('take turns', async () => {
    const [lock, log] = [join(folder, 'turns.lock'), join(folder, 'turns.log')];
    expect(await Promise.all([1, 2, 3, 4].map(() => ended(run(lock, log))))).toEqual([0, 0, 0, 0]);
    expect(readFileSync(log, 'utf8').trim()).toBe('in out in out in out in out');
  });
  it('a killed process leaves no lock behind', async () => {
    const [lock, log] = [join(folder, 'killed.lock'), join(folder, 'killed.log')];
    const first = run(lock, log, 60_000);
    while (!existsSync(log)) await new Promise((resolve) => setTimeout(resolve, 20));
    first.kill('SIGKILL');
    await ended(first);
    // Several find it free at the same moment.
    const four = [1, 2, 3, 4].map(() => ended(run(lock, log, 50)));
    expect(await Promise.all(four)).toEqual([0, 0, 0, 0]);
    expect(readFileSync(log, 'utf8').trim()).toBe('in in out in out in out in out');
  });
});

describe('the figures command', () => {
  it('starts from a bundle that is made anew where its sources changed', () => {
    const bundle = join(import.meta.dirname, '..', 'dist', 'figures.mjs');
    const figures = () =>
      spawnSync(process.execPath, [join(import.meta.dirname, '..', 'figures.mjs')], {
        encoding: 'utf8',
      });
    expect(figures().stderr).toContain('Usage:');
    expect(existsSync(bundle)).toBe(true);
  });
});
