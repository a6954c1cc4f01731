import { randomUUID } from 'node:crypto';
import type { Actor, Lab } from '@dusk-tally/lab';
import { recordInspection, recordReceiving, setCount } from '@dusk-tally/lab/arrivals';
import { recordReadings } from '@dusk-tally/lab/evidence';
import { lotCells } from '@dusk-tally/lab/verdicts';

/** Who acts in the demo, and what they measure with. */
export interface Stage {
  lab: Lab;
  admin: Actor;
  technician: Actor;
  westId: number;
  eastId: number;
  /** Ids of the channels of both load banks, in order. */
  channels: { west: number[]; east: number[] };
  acMeterId: number;
  voltmeterId: number;
  scaleId: number;
  now: Date;
}

export const dayBefore = (now: Date, days: number): string =>
  new Date(now.getTime() - days * 86_400_000).toISOString().slice(0, 10);

const YEARS = '123456789ABCDEFGHJKLMNPRSTVWXY';
const MONTHS = '123456789ABC';
const DAYS = '123456789ABCDEFGHJKLMNPRSTVWXY0';

/** A 24-character code after GB/T 34014-2017 of the demo’s own maker. */
export function cellCode(chemistry: 'B' | 'E', day: string, serial: number): string {
  const [year, month, date] = day.split('-').map(Number) as [number, number, number];
  return `0FZC${chemistry}31K204170${YEARS[year - 2011]}${MONTHS[month - 1]}${DAYS[date - 1]}${String(serial).padStart(7, '0')}`;
}

export async function idsOf(stage: Stage, lotId: number): Promise<number[]> {
  const cells = await lotCells(stage.lab, stage.technician, { lotId });
  return cells.map((cell) => cell.id);
}

/** What a technician enters about a box. */
export async function receiveBox(
  { lab, technician }: Stage,
  lotId: number,
  box: { count: number; entries: Record<string, unknown> },
): Promise<void> {
  await setCount(lab, technician, { lotId, count: box.count });
  await recordReceiving(lab, technician, {
    lotId,
    clientKey: randomUUID(),
    entries: Object.entries(box.entries).map(([field, value]) => ({ field, value })),
  });
}

export async function inspect(
  { lab, technician }: Stage,
  lotId: number,
  found: { code: string; cellIds: number[]; note?: string }[],
  restIsClear: boolean,
): Promise<void> {
  await recordInspection(lab, technician, {
    lotId,
    clientKey: randomUUID(),
    marks: [
      ...found.map(({ code, cellIds, note }) => ({
        act: 'finding' as const,
        code,
        cellIds,
        note: note ?? null,
      })),
      ...(restIsClear ? [{ act: 'clearRest' as const, except: [] }] : []),
    ],
  });
}

type Kind = 'openCircuitVoltage' | 'acResistance' | 'mass' | 'thickness';

/** Readings of one kind, in the order of the cells; null leaves one out. */
export async function read(
  stage: Stage,
  lotId: number,
  kind: Kind,
  cellIds: number[],
  values: (number | null)[],
): Promise<void> {
  const decimals = { openCircuitVoltage: 3, acResistance: 2, mass: 1, thickness: 2 }[kind];
  const readings = cellIds.flatMap((cellId, i) => {
    const value = values[i];
    if (value === null || value === undefined) return [];
    const digits = kind === 'acResistance' && value < 2 ? 3 : decimals;
    return [
      {
        cellId,
        kind,
        value: Number(value.toFixed(digits)),
        decimals: digits,
        clientKey: randomUUID(),
      },
    ];
  });
  if (readings.length === 0) return;
  const instrumentId = {
    openCircuitVoltage: stage.voltmeterId,
    acResistance: stage.acMeterId,
    mass: stage.scaleId,
    thickness: null,
  }[kind];
  await recordReadings(stage.lab, stage.technician, { lotId, instrumentId, readings });
}
