import { randomBytes } from 'node:crypto';
import { join } from 'node:path';
import { inject } from 'vitest';
import { databaseFrom } from '../../scripts/lib/copy-database.mjs';
import { type Actor, closeLab, type Lab, openLab } from '../src';
import { addLot, addModel } from '../src/arrivals';
import { makeFirstAdmin, signIn } from '../src/people';
import { addSupplier } from '../src/suppliers';

export const PASSWORD = 'a long enough password';

export interface FreshLab {
  lab: Lab;
  admin: Actor;
  /** Address of its database. */
  url: string;
  close: () => Promise<void>;
}

const WORKER_FILE = join(import.meta.dirname, '..', 'dist', 'worker.mjs');

/** The same lab as a second process of the app has it: nothing in common but the database. */
export const anotherProcess = (databaseUrl: string, now?: () => Date): Lab =>
  openLab({ databaseUrl, workerFile: WORKER_FILE, now });

/** A lab on an empty database of its own. */
export async function freshLab(now?: () => Date): Promise<FreshLab> {
  const url = inject('databaseUrl').replace(/\/[^/]*$/, `/test_${randomBytes(6).toString('hex')}`);
  await databaseFrom(inject('emptyLab'), url);
  const lab = openLab({
    databaseUrl: url,
    workerFile: WORKER_FILE,
    now,
  });
  await makeFirstAdmin(lab, {
    email: 'admin@lab.example',
    name: 'Ada',
    role: 'admin',
    password: PASSWORD,
  });
  const admin = await signIn(lab, { email: 'admin@lab.example', password: PASSWORD });
  return { lab, admin, url, close: () => closeLab(lab) };
}

/** A lot of a 104 Ah prismatic LFP model, claimed at 0.2 It to 2.5 V. */
export async function claimedLot({ lab, admin }: FreshLab, quantity: number, capacityAh = 104) {
  const tag = randomBytes(3).toString('hex');
  const supplier = await addSupplier(lab, admin, { name: `Reedbank ${tag}` });
  const model = await addModel(lab, admin, {
    name: `P-${tag}`,
    chemistry: 'LFP',
    format: 'prism',
    widthMm: 130,
    thicknessMm: 36,
    heightMm: 195,
  });
  return addLot(lab, admin, {
    title: 'Prismatic',
    supplierId: supplier.id,
    modelId: model.id,
    quantity,
    claim: [
      { kind: 'capacity', value: capacityAh, conditions: { rateIt: 0.2, cutoffV: 2.5 } },
      { kind: 'acResistance', value: 0.5 },
    ],
  });
}
