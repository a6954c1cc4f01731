import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync, gzipSync } from 'node:zlib';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Lab } from '../../lab/src';
import { DEMO_PASSWORD, DEMO_PEOPLE, makeFirstAdmin, signIn } from '../../lab/src/people';
import { failure } from '../../lab/testing/failure';
import {
  anotherProcess,
  claimedLot,
  type FreshLab,
  freshLab,
  PASSWORD,
} from '../../lab/testing/fresh-lab';
import { DumpRows } from '../lib/dump-rows.mjs';
import { connectTo } from '../lib/swap-databases.mjs';

const root = join(import.meta.dirname, '..', '..');
const folder = mkdtempSync(join(tmpdir(), 'dusk-backups-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

function node(script: string, args: string[], url: string, more: Record<string, string> = {}) {
  return spawnSync(process.execPath, [join(root, 'scripts', script), ...args], {
    encoding: 'utf8',
    env: { PATH: process.env.PATH!, HOME: process.env.HOME!, DUSK_DATABASE_URL: url, ...more },
  });
}

/** Names of databases that begin so. */
async function databases(url: string, begins: string): Promise<string[]> {
  const at = new URL(url);
  const db = await connectTo({
    host: at.hostname,
    port: at.port,
    user: at.username,
    password: decodeURIComponent(at.password),
  });
  const rows: { n: string }[] = await db.query(
    'SELECT SCHEMA_NAME AS n FROM information_schema.SCHEMATA WHERE SCHEMA_NAME LIKE ?',
    [`${begins}%`],
  );
  await db.end();
  return rows.map(({ n }) => n);
}

describe('backup and restore', () => {
  let fresh: FreshLab;
  let lotId: number;
  let file: string;
  /** The lab as it is asked between commands, with no connection left open. */
  async function within<T>(work: (lab: Lab) => Promise<T>): Promise<T> {
    const lab = anotherProcess(fresh.url);
    try {
      return await work(lab);
    } finally {
      await lab.store.close();
      await lab.compute.close();
    }
  }
  const title = () => within(async ({ store }) => (await store.lots.one({ id: lotId }))!.title);
  const spoil = () =>
    within(({ store }) => store.lots.update({ title: 'as it is now' }, { id: lotId }));
  const restore = (path: string) => node('restore.mjs', [path, '--replace'], fresh.url);
  /** The good backup with its text changed. */
  function changed(name: string, change: (text: string) => string): string {
    const path = join(folder, name);
    writeFileSync(
      path,
      gzipSync(Buffer.from(change(gunzipSync(readFileSync(file)).toString('latin1')), 'latin1')),
    );
    return path;
  }
  beforeAll(async () => {
    fresh = await freshLab();
    lotId = (await claimedLot(fresh, 3)).id;
    await fresh.close();
    file = join(folder, 'backup.sql.gz');
    const made = node('backup.mjs', [file], fresh.url);
    expect(made.stdout).toMatch(/Backed up to/);
  });

  it('brings everything back, triggers too, and keeps what was there before', async () => {
    expect(node('backup.mjs', [file], fresh.url).stderr).toMatch(/never overwritten/);
    await spoil();
    expect(node('restore.mjs', [file], fresh.url).stderr).toMatch(/--replace/);
    const { stdout, stderr } = restore(file);
    expect(stderr).toBe('');
    expect(stdout).toMatch(/Restored from .*: 1 lots, 3 cells, 0 runs, 0 reports\./);
    const kept = /database (\w+_before_\d+)/.exec(stdout)![1]!;
    expect(await title()).toBe('Prismatic');
    await within(async ({ store }) => {
      expect(await store.cells.count({ lotId })).toBe(3);
      await expect(store.auditEntries.remove({})).rejects.toThrow(/append-only/);
    });
    const before = anotherProcess(fresh.url.replace(/[^/]*$/, kept));
    expect((await before.store.lots.one({ id: lotId }))!.title).toBe('as it is now');
    await before.store.close();
    await before.compute.close();
    expect(await databases(fresh.url, `${new URL(fresh.url).pathname.slice(1)}_restore`)).toEqual(
      [],
    );
  });

  it('says so when there is nothing to restore from', () => {
    expect(restore(join(folder, 'none.gz')).stderr).toMatch(/is not here/);
  });

  it('is not done while the app is up', async () => {
    await within(async ({ store }) => {
      await store.answers();
      const { stderr, status } = restore(file);
      expect(status).toBe(1);
      expect(stderr).toMatch(/stop the app first\. Nothing was changed/);
    });
  });

  it.each([
    [
      'a shell command',
      (text: string) => `\\! touch ${join(folder, 'ran')}\n${text}`,
      /no part of/,
    ],
    [
      'a shell command behind a statement',
      (text: string) =>
        text.replace(
          /\n-- Dump completed/,
          `\nDO 1; \\! touch ${join(folder, 'ran')}\n-- Dump completed`,
        ),
      /could not be loaded|no part of/,
    ],
    ['another database', (text: string) => `USE mysql;\n${text}`, /no part of/],
    [
      'a statement behind rows',
      (text: string) => text.replace(/^(INSERT INTO `cells` .*?);$/ms, '$1; DROP TABLE people;'),
      /goes on behind its rows/,
    ],
    ['its end cut off', (text: string) => text.slice(0, text.length * 0.7), /cut off|middle of/],
    [
      'a table lost',
      (text: string) => text.replace(/CREATE TABLE `lots`[^;]*;/, ''),
      /rows of no table|could not be loaded/,
    ],
    [
      'rows lost on the way',
      (text: string) =>
        text.replace(/^INSERT INTO `cells` VALUES/m, 'INSERT IGNORE INTO `cells` VALUES'),
      /no part of/,
    ],
    [
      'an act changed by hand',
      (text: string) => text.replace("'added lot'", "'added lots'"),
      /broken at entry/,
    ],
    [
      'a newer version',
      (text: string) =>
        text.replace("('001-first-tables')", "('001-first-tables'),('999-to-come')"),
      /newer version/,
    ],
  ])('a backup with %s changes nothing', async (name, change, says) => {
    await spoil();
    const path = changed(`${name.replaceAll(' ', '-')}.sql.gz`, change);
    expect(readFileSync(path).equals(readFileSync(file))).toBe(false);
    const { stderr, status } = restore(path);
    expect(stderr).toMatch(says);
    expect(status).toBe(1);
    expect(await title()).toBe('as it is now');
    expect(existsSync(join(folder, 'ran'))).toBe(false);
    expect(await databases(fresh.url, `${new URL(fresh.url).pathname.slice(1)}_restore`)).toEqual(
      [],
    );
  });

  it('a file cut short on its way, or none at all, changes nothing', async () => {
    const cut = join(folder, 'cut.sql.gz');
    const whole = readFileSync(file);
    writeFileSync(cut, whole.subarray(0, whole.length - 400));
    expect(restore(cut).stderr).toMatch(/cannot be read.*Nothing was changed/);
    const text = join(folder, 'plain.txt');
    writeFileSync(text, 'nothing');
    expect(restore(text).stderr).toMatch(/cannot be read.*Nothing was changed/);
    expect(await title()).toBe('as it is now');
  });

  it('that fails leaves nothing under its name', () => {
    const name = join(folder, 'failed.sql.gz');
    const { status } = node('backup.mjs', [name], fresh.url.replace(/[^/]*$/, 'nobody_has_this'));
    expect(status).toBe(1);
    expect(readdirSync(folder).filter((one) => one.startsWith('failed'))).toEqual([]);
  });

  it('of a demo lets none of its accounts into a lab for real', async () => {
    const demo = await freshLab();
    await demo.lab.store.people.update({ email: 'kept@lab.example' }, { id: demo.admin.id });
    const [person] = DEMO_PEOPLE;
    await demo.lab.store.people.update({ active: false }, { id: demo.admin.id });
    expect(
      await makeFirstAdmin(demo.lab, { ...person!, role: 'admin', password: DEMO_PASSWORD }),
    ).toBe(true);
    await signIn(demo.lab, { email: person!.email, password: DEMO_PASSWORD });
    await demo.close();
    const dump = join(folder, 'demo.sql.gz');
    node('backup.mjs', [dump], demo.url);
    const { stdout } = restore(dump);
    expect(stdout).toContain(`${person!.name} is an account of the demo`);
    await within(async (lab) => {
      const refused = await failure(
        signIn(lab, { email: person!.email, password: DEMO_PASSWORD }).then(() => undefined),
      );
      expect(refused.message).toBeTruthy();
      // Nobody else may sign in: the first admin is made anew.
      expect(
        await makeFirstAdmin(lab, {
          email: 'real@lab.example',
          name: 'Ada',
          role: 'admin',
          password: PASSWORD,
        }),
      ).toBe(true);
    });
  });
});

describe('rows of a dump', () => {
  const read = (text: string, cuts: number[] = []) =>
    new Promise<Map<string, number>>((resolve, reject) => {
      const rows = new DumpRows();
      rows.on('error', reject);
      rows.on('end', () => resolve(rows.rows));
      rows.resume();
      const bytes = Buffer.from(text);
      let from = 0;
      for (const cut of [...cuts, bytes.length]) {
        if (cut <= from) continue;
        rows.write(bytes.subarray(from, cut));
        from = cut;
      }
      rows.end();
    });
  const quoted = (text: string) =>
    `'${text.replaceAll('\\', '\\\\').replaceAll("'", "\\'").replaceAll('\n', '\\n')}'`;

  it('are counted whatever stands in them, however the file comes in pieces', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.array(fc.string({ maxLength: 8 }), { minLength: 1, maxLength: 3 }), {
          minLength: 1,
          maxLength: 6,
        }),
        fc.array(fc.nat(400), { maxLength: 4 }),
        fc.boolean(),
        async (rows, cuts, onLines) => {
          const values = rows.map((row) => `(${row.map(quoted).join(',')})`);
          const text = `-- It's a dump\nCREATE TABLE \`t\` (\n  \`a\` text\n);\nINSERT INTO \`t\` VALUES${onLines ? '\n' : ' '}${values.join(onLines ? ',\n' : ',')};\n-- Dump completed\n`;
          const sorted = [...cuts].sort((a, b) => a - b).filter((cut) => cut < text.length);
          expect((await read(text, sorted)).get('t')).toBe(rows.length);
        },
      ),
    );
  });
});
