import { z } from 'zod';
import { loadClaim, labDay, openLot } from '../../lots';
import { isDuplicate, type Lab, LabError, procedure } from '../../shared';
import { importInput, fingerprint } from '../import-input';
import { knownMappings } from '../mappings';
import { periodName } from '../../inputs';

const input = importInput
  .pick({ lotId: true, fileName: true, bytes: true, path: true, signal: true })
  .extend({ name: periodName });

async function refuseKnown(lab: Lab, sha256: string, fileName: string): Promise<void> {
  const known = await lab.store.strings.logs.one(
    { sha256 },
    { columns: ['id', 'fileName', 'name', 'at'] },
  );
  if (!known) return;
  throw new LabError(
    'duplicate',
    `${fileName} is the same file as ${known.fileName}, taken in as “${known.name}” on ${await labDay(lab, undefined, known.at)}. It was not stored again.`,
    { link: `/strings/${known.id}` },
  );
}

async function prepare(lab: Lab, { lotId, fileName, bytes, path, signal }: z.output<typeof input>) {
  if ((bytes === null) === (path === null))
    throw new LabError('invalid', 'Expected the log as bytes or as a file, one of them.');
  const { sha256, size } = await fingerprint({ bytes, path });
  await refuseKnown(lab, sha256, fileName);
  const [{ model }, mappings] = await Promise.all([loadClaim(lab, lotId), knownMappings(lab)]);
  const { chemistry } = model;
  const computed = await lab.compute
    .computeString({ bytes, path, mappings, chemistry }, signal)
    .catch((error: unknown) => {
      if (signal?.aborted)
        throw new LabError('invalid', `${fileName} was cancelled. Nothing of it was stored.`);
      throw error;
    });
  if (!computed.ok)
    throw new LabError('invalid', `${fileName}: ${computed.message} Nothing of it was stored.`);
  return { sha256, size, computed, chemistry };
}

/** Takes in the log of a string’s cells, whole or not at all. */
export const importString = procedure({
  role: 'technician',
  input,
  prepare,
  run: async ({ lab, actor, input, prepared, transaction, audit }): Promise<{ id: number }> => {
    const { lotId, fileName, name } = input;
    const { sha256, size, computed, chemistry } = prepared;
    const { blocks, overview, watch, rows, durationS, beginsS } = computed;
    await openLot(lab, lotId, transaction);
    const row = await lab.store.strings.logs
      .insert(
        {
          lotId,
          name,
          fileName,
          sha256,
          bytes: size,
          rows,
          durationS,
          startedAt: computed.startedAtMs === null ? null : new Date(computed.startedAtMs),
          cellHeaders: computed.cellHeaders,
          cellIds: computed.cellHeaders.map(() => null),
          decimalsV: computed.decimalsV,
          beginsS,
          chemistry,
          watch,
          findings: computed.findings,
          overview: Buffer.from(overview.buffer, overview.byteOffset, overview.byteLength),
          takenBackAt: null,
          takenBackBy: null,
          takenBackWhy: null,
          personId: actor.id,
          at: lab.now(),
        },
        transaction,
      )
      .catch((error: unknown) => {
        if (isDuplicate(error))
          throw new LabError(
            'duplicate',
            `${fileName} was taken in a moment ago. It was not stored again.`,
          );
        throw error;
      });
    await lab.store.strings.insertBlocks(
      row.id,
      blocks.map(({ column, index, payload }) => ({
        columnName: column,
        blockIndex: index,
        payload: Buffer.from(payload.buffer, payload.byteOffset, payload.byteLength),
      })),
      transaction,
    );
    await audit({
      act: 'took in the log of a string',
      subjectType: 'string',
      subjectId: String(row.id),
      after: { file: fileName, name, sha256, rows, cells: computed.cellHeaders.length },
    });
    return { id: row.id };
  },
});
