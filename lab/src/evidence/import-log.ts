import type { ChannelRow, InstrumentRow, LogFileRow, Transaction } from '@dusk-tally/store';
import { z } from 'zod';
import {
  type EffectiveClaim,
  labDay,
  loadClaim,
  openLot,
  requireOpenGate,
  labTimeZone,
} from '../lots';
import { type Actor, found, isDuplicate, type Lab, LabError, procedure, workerOf } from '../shared';
import type { ComputedLog, LogResult, LogTask } from '../compute';
import { figureRow } from '../derived';
import { testerAccuracy } from './instruments';
import { knownMappings } from './mappings';
import { runInputHash } from './run-inputs';
import { fingerprint, importInput } from './import-input';

interface Prepared {
  sha256: string;
  size: number;
  computed: ComputedLog;
  claim: EffectiveClaim;
  instrumentId: number | null;
  channelId: number | null;
  /** Of all its figures were computed from; a claim that changed meanwhile has them made new. */
  inputHash: string;
}

export interface ImportedLog {
  runId: number;
  cell: string;
  rows: number;
  capacityAh: number | null;
  bound: string | null;
}

async function refuseKnownFile(lab: Lab, sha256: string, fileName: string): Promise<void> {
  const known = await lab.store.logFiles.one({ sha256 });
  if (!known) return;
  const run = await lab.store.runs.one({ logFileId: known.id }, { columns: ['id', 'cellId'] });
  const cell = run ? await lab.store.cells.one({ id: run.cellId }) : null;
  throw new LabError(
    'duplicate',
    `${fileName} is the same file as ${known.name}, taken in on ${await labDay(lab, undefined, known.at)}${cell ? ` for ${cell.number}` : ''}. It was not stored again.`,
    {
      link: cell ? `/cells/${cell.number}` : undefined,
    },
  );
}

async function prepare(lab: Lab, input: z.output<typeof importInput>): Promise<Prepared> {
  if ((input.bytes === null) === (input.path === null))
    throw new LabError('invalid', 'Expected the log as bytes or as a file, one of them.');
  // Hashed from the start, while it is computed.
  const printing = fingerprint(input);
  printing.catch(() => undefined);
  const [{ claim }, { instrument, channel, loadOnly }, mappings, timeZone] = await Promise.all([
    loadClaim(lab, input.lotId),
    benchPlace(lab, input),
    knownMappings(lab),
    labTimeZone(lab),
  ]);
  const task = {
    bytes: input.bytes,
    path: input.path,
    cutoffV: claim.cutoffV.value,
    ratedAh: claim.capacityAh?.value ?? null,
    accuracy: testerAccuracy(instrument),
    leadMohm: input.leadMohm,
    leadUncertaintyMohm: input.leadUncertaintyMohm,
    voltageTable: channel?.voltageTable ?? [],
    loadOnly,
    timeZone,
    mappings,
  };
  const { sha256, size, computed } = await computedOnce(lab, task, input, printing);
  if (!computed.ok)
    throw new LabError(
      'invalid',
      `${input.fileName}: ${computed.message} Nothing of it was stored.`,
    );
  return {
    sha256,
    size,
    computed,
    claim,
    instrumentId: instrument?.id ?? null,
    channelId: channel?.id ?? null,
    inputHash: runInputHash({
      run: {
        instrumentId: instrument?.id ?? null,
        channelId: channel?.id ?? null,
        leadMohm: input.leadMohm,
        leadUncertaintyMohm: input.leadUncertaintyMohm,
      },
      claim,
      instrument,
      voltageTable: task.voltageTable,
      loadOnly,
    }),
  };
}

/** Computes a log while it is looked up whether the same file was taken in before. */
async function computedOnce(
  lab: Lab,
  task: LogTask,
  input: z.output<typeof importInput>,
  printing: ReturnType<typeof fingerprint>,
): Promise<{ sha256: string; size: number; computed: LogResult }> {
  const known = new AbortController();
  const signal = input.signal ? AbortSignal.any([input.signal, known.signal]) : known.signal;
  const computing = lab.compute.computeLog(task, signal).catch((error: unknown) => {
    if (input.signal?.aborted)
      throw new LabError('invalid', `${input.fileName} was cancelled. Nothing of it was stored.`);
    throw error;
  });
  // Where looking it up fails first, how the computing ends no longer matters.
  computing.catch(() => undefined);
  try {
    const { sha256, size } = await printing;
    await refuseKnownFile(lab, sha256, input.fileName);
    return { sha256, size, computed: await computing };
  } catch (error) {
    known.abort();
    throw error;
  }
}

/** Instrument and channel a run is said to come from; a tester with one channel names both. */
async function benchPlace(
  lab: Lab,
  { instrumentId, channelId }: Pick<z.output<typeof importInput>, 'instrumentId' | 'channelId'>,
): Promise<{
  instrument: InstrumentRow | null;
  channel: ChannelRow | null;
  /** The channel is described as one that cannot charge. */
  loadOnly: boolean;
}> {
  const { instruments, meters } = lab.store;
  if (channelId !== null) {
    const channel = found(await meters.channels.one({ id: channelId }), 'That channel');
    const instrument = found(await instruments.one({ id: channel.instrumentId }), 'Its instrument');
    return { instrument, channel, loadOnly: await onlyLoads(lab, channel.id) };
  }
  if (instrumentId === null) return { instrument: null, channel: null, loadOnly: false };
  const instrument = found(await instruments.one({ id: instrumentId }), 'That instrument');
  const channels = await meters.channels.find({ instrumentId });
  const channel = channels.length === 1 ? channels[0]! : null;
  return { instrument, channel, loadOnly: channel ? await onlyLoads(lab, channel.id) : false };
}

/** Whether a channel is described as one that cannot charge. */
async function onlyLoads(lab: Lab, channelId: number): Promise<boolean> {
  const described = await lab.store.bench.channels.one({ channelId });
  return described !== null && !described.limits.canCharge;
}

/** Blocks and pyramid as rows. */
function traceRows({ blocks, pyramid }: Pick<ComputedLog, 'blocks' | 'pyramid'>) {
  return [
    ...blocks.map((block) => ({ ...block, columnName: block.column as string })),
    ...pyramid.map((chunk) => ({ ...chunk, columnName: `pyramid${chunk.level}` })),
  ].map(({ columnName, index, payload }) => ({
    columnName,
    blockIndex: index,
    payload: Buffer.from(payload.buffer, payload.byteOffset, payload.byteLength),
  }));
}

/** Keeps what is known of a log’s file. @throws LabError where the same one was taken in meanwhile. */
function storeFile(
  lab: Lab,
  actor: Actor,
  input: { fileName: string; lotId: number },
  { sha256, size }: { sha256: string; size: number },
  transaction: Transaction,
): Promise<LogFileRow> {
  return lab.store.logFiles
    .insert(
      {
        sha256,
        name: input.fileName,
        bytes: size,
        lotId: input.lotId,
        personId: workerOf(actor),
        at: lab.now(),
      },
      transaction,
    )
    .catch((error: unknown) => {
      if (isDuplicate(error))
        throw new LabError(
          'duplicate',
          `${input.fileName} was taken in a moment ago. It was not stored again.`,
        );
      throw error;
    });
}

/** Takes in one log for one cell: file hash, trace, figures and standing in one transaction, or nothing. */
export const importLog = procedure({
  role: 'technician',
  input: importInput,
  prepare,
  run: async ({
    lab,
    actor,
    input,
    prepared,
    transaction,
    audit,
    changed,
  }): Promise<ImportedLog> => {
    const { store } = lab;
    const { sha256, size, computed, instrumentId, channelId, inputHash } = prepared;
    const cell = found(
      await store.cells.one({ id: input.cellId, lotId: input.lotId }, { transaction }),
      'That cell of the lot',
    );
    if (input.despiteGate && actor.role === 'technician')
      throw new LabError('notAllowed', 'Taking in a run past its gate needs the role lead.');
    // Two who change what counts of one cell at once go one after the other.
    await openLot(lab, input.lotId, transaction, true);
    await requireOpenGate(lab, cell, input.despiteGate, transaction);
    const file = await storeFile(lab, actor, input, { sha256, size }, transaction);
    const run = await store.runs.insert(
      {
        cellId: cell.id,
        lotId: input.lotId,
        logFileId: file.id,
        instrumentId,
        channelId,
        ambientC: input.ambientC,
        clamping: input.clamping,
        personId: workerOf(actor),
        rows: computed.rows,
        durationS: computed.durationS,
        startedAt: computed.startedAtMs === null ? null : new Date(computed.startedAtMs),
        leadMohm: input.leadMohm,
        leadUncertaintyMohm: input.leadUncertaintyMohm,
        summary: { ...computed.summary, clocksApart: input.clocksApart },
        inputHash,
        curve: Buffer.from(computed.curve),
        createdAt: lab.now(),
      },
      transaction,
    );
    const place = { cellId: cell.id, lotId: input.lotId, runId: run.id, readingId: null };
    const { leadMohm, leadUncertaintyMohm } = input;
    const read = { sha256, instrumentId, channelId, leadMohm, leadUncertaintyMohm };
    // One connection takes the statements in turn; the next is put together while one is carried out.
    const blocks = store.evidence.insertTraceBlocks(run.id, traceRows(computed), transaction);
    const figures = store.figures.insertMany(
      computed.figures.map(({ figure, cutoffV }) => figureRow(figure, { ...place, cutoffV }, read)),
      transaction,
    );
    await Promise.all([blocks, figures]);
    changed({ what: 'runs', lotId: input.lotId, cellIds: [cell.id] });
    const capacity = computed.figures.find(({ figure }) => figure.quantity === 'capacity')?.figure;
    await audit({
      act: 'took in log',
      subjectType: 'cell',
      subjectId: cell.number,
      after: {
        file: input.fileName,
        sha256,
        rows: computed.rows,
        capacityAh: capacity?.value ?? null,
        ...(input.despiteGate ? { despiteGate: input.despiteGate } : {}),
      },
    });
    return {
      runId: run.id,
      cell: cell.number,
      rows: computed.rows,
      capacityAh: capacity?.value ?? null,
      bound: capacity?.bound ?? null,
    };
  },
});
