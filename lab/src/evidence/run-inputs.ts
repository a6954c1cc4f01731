import { type CalibrationPoint, LOG_METHODS } from '@dusk-tally/core/evidence';
import type { InstrumentRow, RunRow, Transaction } from '@dusk-tally/store';
import type { EffectiveClaim } from '../lots';
import type { Touched } from '../derived';
import type { Lab } from '../shared';
import { hashOf } from '../derived';
import { testerAccuracy } from './instruments';
import { metersThen } from './meter-periods';

/** Everything figures of a run are computed from beside its trace, which never changes. */
export interface RunInputs {
  run: Pick<RunRow, 'instrumentId' | 'channelId' | 'leadMohm' | 'leadUncertaintyMohm'>;
  claim: EffectiveClaim;
  instrument: Pick<InstrumentRow, 'kind' | 'accuracy'> | null;
  voltageTable: readonly CalibrationPoint[];
  /** The channel can only load: in a hole of the log nothing was charged. */
  loadOnly: boolean;
}

/** Hash of the whole input of a run’s figures; equal hashes give equal bits. */
export const runInputHash = ({
  run,
  claim,
  instrument,
  voltageTable,
  loadOnly,
}: RunInputs): string =>
  hashOf({
    methods: LOG_METHODS,
    cutoffV: claim.cutoffV.value,
    ratedAh: claim.capacityAh?.value ?? null,
    accuracy: testerAccuracy(instrument as InstrumentRow | null),
    voltageTable,
    leadMohm: run.leadMohm,
    leadUncertaintyMohm: run.leadUncertaintyMohm,
    loadOnly,
  });

/** Runs of cells whose input is no longer what their figures were computed from. */
export async function staleRuns(
  lab: Lab,
  { lotId, cellIds }: Touched,
  claim: EffectiveClaim,
  transaction?: Transaction,
): Promise<{ id: number; cellId: number }[]> {
  const { store } = lab;
  const [runs, meters] = await Promise.all([
    store.runs.find(cellIds ? { lotId, cellId: [...cellIds] } : { lotId }, {
      transaction,
      columns: [
        'id',
        'cellId',
        'instrumentId',
        'channelId',
        'leadMohm',
        'leadUncertaintyMohm',
        'inputHash',
        'startedAt',
        'createdAt',
      ],
      order: [['id', 'ASC']],
    }),
    metersThen(lab, transaction),
  ]);
  return runs.filter(
    (run) =>
      run.inputHash !==
      runInputHash({
        run,
        claim,
        instrument: meters.instrument(run.instrumentId, meters.dayOf(run)),
        voltageTable: meters.channel(run.channelId, meters.dayOf(run))?.voltageTable ?? [],
        loadOnly: meters.loadOnly(run.channelId),
      }),
  );
}
