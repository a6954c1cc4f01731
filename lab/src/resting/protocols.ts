import { SHIPPED_PROTOCOLS, type RestProtocol } from '@dusk-tally/core/resting';
import type { Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import { lookOf, restProtocolInput } from '../inputs';
import { type Lab, LabError, procedure, question } from '../shared';

/** A protocol as it is offered. */
export interface OfferedProtocol {
  protocol: RestProtocol;
  /** Written by this lab, when and why; null for one that ships. */
  own: { by: string; at: Date; reason: string } | null;
}

/** Protocols cells can be laid down by: those that ship, and this lab’s own, which replace those of the same name. */
export async function offeredProtocols(
  lab: Lab,
  transaction?: Transaction,
): Promise<RestProtocol[]> {
  const rows = await lab.store.resting.protocols.find({}, { transaction, order: [['id', 'ASC']] });
  const newest = new Map(rows.map((row) => [row.name, row]));
  const own = [...newest.values()].filter(({ retired }) => !retired);
  return [
    ...SHIPPED_PROTOCOLS.filter(({ name }) => !newest.has(name)),
    ...own.map(({ protocol }) => protocol),
  ];
}

/** The protocol of a name. @throws LabError where none is offered by it. */
export async function protocolNamed(
  lab: Lab,
  name: string,
  transaction?: Transaction,
): Promise<RestProtocol> {
  const offered = await offeredProtocols(lab, transaction);
  const found = offered.find((one) => one.name === name);
  if (!found)
    throw new LabError(
      'invalid',
      `Expected one of the protocols: ${offered.map((one) => one.name).join(', ')}.`,
      { field: 'protocol' },
    );
  return found;
}

/** All protocols that are offered, with who wrote them. */
export const listProtocols = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab): Promise<OfferedProtocol[]> => {
    const [offered, rows, people] = await Promise.all([
      offeredProtocols(lab),
      lab.store.resting.protocols.find({}, { order: [['id', 'ASC']] }),
      lab.store.people.find({}, { columns: ['id', 'name'] }),
    ]);
    const names = new Map(people.map(({ id, name }) => [id, name]));
    const newest = new Map(rows.map((row) => [row.name, row]));
    return offered.map((protocol) => {
      const row = newest.get(protocol.name);
      return {
        protocol,
        own: row ? { by: names.get(row.personId) ?? '', at: row.at, reason: row.reason } : null,
      };
    });
  },
});

/** Writes a protocol, or a new version of one; cells on the shelf keep the version they were laid down by. */
export const saveProtocol = procedure({
  role: 'lead',
  input: restProtocolInput,
  run: async ({ lab, actor, input, transaction, audit }): Promise<{ version: number }> => {
    const { name, judges, looks, reason } = input;
    const before = (await offeredProtocols(lab, transaction)).find((one) => one.name === name);
    const protocol: RestProtocol = {
      name,
      version: (before?.version ?? 0) + 1,
      judges,
      firstHours: 24,
      looks: looks.map(lookOf),
      leastRetention: null,
    };
    await lab.store.resting.protocols.insert(
      { name, protocol, retired: false, reason, personId: actor.id, at: lab.now() },
      transaction,
    );
    await audit({
      act: before ? 'changed rest protocol' : 'wrote rest protocol',
      subjectType: 'restProtocol',
      subjectId: name,
      before: before ?? null,
      after: { ...protocol, reason },
    });
    return { version: protocol.version };
  },
});
