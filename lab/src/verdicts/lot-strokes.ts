import type { AssessmentRow, CellArrivalRow } from '@dusk-tally/store';
import type { LotClaim } from '../lots';
import { byLot, type Lab } from '../shared';

/** One stroke of the tally strip. */
export interface Stroke {
  number: string;
  /** Capacity over claim; null before a test. */
  share: number | null;
  mark:
    'untested' | 'met' | 'notMet' | 'tooClose' | 'atLeast' | 'notComparable' | 'noClaim' | 'held';
  /** What its arrival found; null where nothing was, or before. */
  sign: 'stop' | 'discard' | 'serious' | 'lead' | 'recovering' | 'note' | null;
}

type SlimArrival = Pick<CellArrivalRow, 'cellId' | 'gate' | 'worst'>;

/** The sign a stroke carries for what its arrival found, worst first. */
function signOf(arrival: SlimArrival | undefined): Stroke['sign'] {
  if (!arrival) return null;
  const byGate = {
    quarantined: 'stop',
    discard: 'discard',
    blocked: 'serious',
    waitsForLead: 'lead',
    recovering: 'recovering',
  } as const;
  if (arrival.gate in byGate) return byGate[arrival.gate as keyof typeof byGate];
  return arrival.worst === 'note' ? 'note' : null;
}

type SlimAssessment = Pick<AssessmentRow, 'cellId' | 'value' | 'bound' | 'state'>;

/** The mark of a stroke, from what was assessed of its capacity. */
function markOf(capacity: SlimAssessment | undefined): Stroke['mark'] {
  if (!capacity || capacity.value === null) return 'untested';
  switch (capacity.state) {
    case 'held':
    case 'notComparable':
    case 'met':
      return capacity.state;
    case 'notMet':
    case 'tooClose':
      return capacity.bound === 'atLeast' ? 'atLeast' : capacity.state;
    default:
      return 'noClaim';
  }
}

/** Strokes of some lots, each in the order of its cells, asked of all at once: by lot. */
export async function strokesOf(
  lab: Lab,
  claims: ReadonlyMap<number, LotClaim>,
): Promise<Map<number, Stroke[]>> {
  const lotId = [...claims.keys()];
  const [cells, arrivals, capacities] = await Promise.all([
    lab.store.cells.find(
      { lotId },
      { order: [['position', 'ASC']], columns: ['id', 'lotId', 'number'] },
    ),
    lab.store.arrivals.cells.find({ lotId }, { columns: ['cellId', 'gate', 'worst'] }),
    lab.store.verdicts.assessments.find(
      { lotId, item: 'capacity' },
      { columns: ['cellId', 'value', 'bound', 'state'] },
    ),
  ]);
  const capacityOf = new Map(capacities.map((row) => [row.cellId, row]));
  const arrivalOf = new Map(arrivals.map((arrival) => [arrival.cellId, arrival]));
  const cellsOf = byLot(cells);
  return new Map(
    [...claims].map(([lot, { claim }]) => {
      const claimedAh = claim.capacityAh?.value ?? null;
      const strokes = (cellsOf.get(lot) ?? []).map(({ id, number }): Stroke => {
        const capacity = capacityOf.get(id);
        return {
          number,
          share: capacity?.value && claimedAh ? capacity.value / claimedAh : null,
          mark: markOf(capacity),
          sign: signOf(arrivalOf.get(id)),
        };
      });
      return [lot, strokes];
    }),
  );
}
