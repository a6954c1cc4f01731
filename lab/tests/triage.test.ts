import { RECOVERY_CAUTION } from '@dusk-tally/core/arrivals';
import { describe, expect, it } from 'vitest';
import type { Actor } from '../src';
import { noteRecovery, recordReceiving, releaseCell, triageOfLot } from '../src/arrivals';
import { importLog, recordReadings } from '../src/evidence';
import { lotCells } from '../src/verdicts';
import { failure } from '../testing/failure';
import { claimedLot } from '../testing/fresh-lab';
import {
  cellsOf,
  fresh,
  gates,
  inspect,
  key,
  sample,
  technician,
  volts,
  useArrivalLab,
} from '../testing/arrival-lab';

useArrivalLab();

describe('triage', () => {
  it('sorts by the careful school, and releases one cell at a time by a lead who read the caution', async () => {
    const lot = await claimedLot(fresh, 5);
    const cells = await cellsOf(lot);
    await inspect(lot, [{ act: 'clearRest', except: [] }]);
    await volts(lot, [
      [cells[0]!.id, 3.29],
      [cells[1]!.id, 1.72],
      [cells[2]!.id, 0.6],
      [cells[3]!.id, 3.291],
    ]);
    expect(await gates(lot)).toEqual({ discard: 1, waitsForLead: 1, open: 1, ready: 2 });
    const low = cells[1]!.id;
    const release = (who: Actor, caution: string) =>
      releaseCell(fresh.lab, who, { cellId: low, caution: caution as typeof RECOVERY_CAUTION });
    expect((await failure(release(technician, RECOVERY_CAUTION))).code).toBe('notAllowed');
    expect((await failure(release(fresh.admin, 'yes yes'))).code).toBe('invalid');
    expect(
      (await failure(noteRecovery(fresh.lab, technician, { cellId: low, act: 'recovered' }))).code,
    ).toBe('conflict');
    await release(fresh.admin, RECOVERY_CAUTION);
    expect((await failure(release(fresh.admin, RECOVERY_CAUTION))).code).toBe('conflict');
    expect(
      (await failure(noteRecovery(fresh.lab, technician, { cellId: low, act: 'heatCheck' })))
        .message,
    ).toMatch(/needs the minutes/);
    await noteRecovery(fresh.lab, technician, {
      cellId: low,
      act: 'heatCheck',
      minutes: 5,
      temperatureC: 23.5,
    });
    expect(
      (await failure(noteRecovery(fresh.lab, technician, { cellId: low, act: 'recovered' })))
        .message,
    ).toMatch(/last read at 1.720 V and goes to test from 2.0 V/);
    await volts(lot, [[low, 2.6]]);
    await noteRecovery(fresh.lab, technician, { cellId: low, act: 'recovered' });
    expect((await gates(lot)).ready).toBe(3);
    const view = await triageOfLot(fresh.lab, technician, { lotId: lot.id });
    expect(view.lines.map((line) => line.number)).toEqual([cells[2]!.number, cells[1]!.number]);
    expect(view).toMatchObject({ unread: 1, goV: 2, mostA: 0.2 });
    expect(view.lines[1]!.recoveries.map((entry) => entry.act)).toEqual([
      'released',
      'heatCheck',
      'recovered',
    ]);
  });

  it('by the recovery school a cell below 1.0 V may be recovered, and keeps its mark for life', async () => {
    const lot = await claimedLot(fresh, 1);
    const [cell] = await cellsOf(lot);
    await inspect(lot, [{ act: 'clearRest', except: [] }]);
    await volts(lot, [[cell!.id, 0.74]]);
    expect(await gates(lot)).toEqual({ discard: 1 });
    await recordReceiving(fresh.lab, fresh.admin, {
      lotId: lot.id,
      clientKey: key(),
      entries: [{ field: 'school', value: 'recovery' }],
    });
    expect(await gates(lot)).toEqual({ waitsForLead: 1 });
    await releaseCell(fresh.lab, fresh.admin, { cellId: cell!.id, caution: RECOVERY_CAUTION });
    await volts(lot, [[cell!.id, 3.22]]);
    await noteRecovery(fresh.lab, technician, { cellId: cell!.id, act: 'recovered' });
    expect(await gates(lot)).toEqual({ ready: 1 });
    await importLog(fresh.lab, technician, {
      lotId: lot.id,
      cellId: cell!.id,
      fileName: 'deep.csv',
      bytes: new TextEncoder().encode(
        new TextDecoder().decode(sample('02-quantity-slash-unit.csv')).replace(/\n$/, '\n\n'),
      ),
    });
    const [line] = await lotCells(fresh.lab, technician, { lotId: lot.id });
    expect(line).toMatchObject({
      verdict: 'met',
      grade: 'Spares',
      reasons: ['Spares at best: it was at 0.74 V once, below 1.0 V.'],
    });
  });

  it('a voltage typed by mistake and taken back leaves no mark', async () => {
    const lot = await claimedLot(fresh, 1);
    const [cell] = await cellsOf(lot);
    await volts(lot, [[cell!.id, 0.329]]);
    expect((await gates(lot)).discard).toBe(1);
    await recordReadings(fresh.lab, technician, {
      lotId: lot.id,
      readings: [
        {
          cellId: cell!.id,
          kind: 'openCircuitVoltage',
          value: null,
          decimals: 0,
          clientKey: key(),
        },
      ],
    });
    await volts(lot, [[cell!.id, 3.29]]);
    expect((await gates(lot)).discard).toBeUndefined();
  });
});
