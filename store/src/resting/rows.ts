import type { RestOutcome, RestProtocol } from '@dusk-tally/core/resting';

/** What is known of a rest: derived and replaceable. */
export interface RestDetail {
  /** Readings that count, and days since the charge of the last one. */
  counted: number;
  days: number | null;
  voltageV: number | null;
  /** First counted reading less the last, V. */
  lossV: number | null;
  /** Robust z of the loss against the lot; null where the lot cannot tell, with why. */
  z: number | null;
  isFastLoser: boolean | null;
  refused: string | null;
  /** Slope of the voltage, mV a day, with its standard uncertainty. */
  slope: { value: number; standardUncertainty: number } | null;
  /** Charge lost in 30 days, %, by the model’s slow discharges; absent in rests told of before. */
  monthly?: { value: number; standardUncertainty: number } | null;
  /** Current that leaks inside the cell, µA. */
  leakageUa?: { value: number; standardUncertainty: number } | null;
  /** Why neither is told. */
  monthlyRefused?: string | null;
  /** Share of its capacity it kept, where its protocol asks for that. */
  retention?: { value: number; standardUncertainty: number } | null;
}

/** A cell that stands, full, to be read on its day. */
export interface RestRow {
  id: number;
  lotId: number;
  cellId: number;
  /** The protocol as it was when the cell was laid down. */
  protocol: RestProtocol;
  /** Which look of the protocol it is. */
  look: number;
  fullAt: Date;
  /** Why it is looked at once more. */
  reason: string | null;
  /** Taken off the shelf before it was over; it says nothing then. */
  takenOff: boolean;
  outcome: RestOutcome | null;
  /** When the reading was taken that ended it, or it was taken off. */
  endedAt: Date | null;
  detail: RestDetail;
  personId: number;
  at: Date;
  version: number;
}

/** A protocol as a lab wrote it; the newest of a name counts. */
export interface RestProtocolRow {
  id: number;
  name: string;
  protocol: RestProtocol;
  /** Not offered any more. */
  retired: boolean;
  reason: string;
  personId: number;
  at: Date;
}
