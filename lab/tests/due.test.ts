import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { changeClaim, recordInspection } from '../src/arrivals';
import { planAll, planBoard } from '../src/bench';
import { addInstrument } from '../src/evidence';
import { URGENCIES } from '../src/shared';
import { dueCalendar, dueCounts, dueItems, openLots, today } from '../src/today';
import { lotHead } from '../src/verdicts';
import { type BenchLab, benchLab, listEight, NOW } from '../testing/bench-lab';

describe('what is due', () => {
  let bench = {} as BenchLab;
  let clock = NOW;
  const lab = () => bench.fresh.lab;
  const items = async () => dueItems(lab(), await openLots(lab()));
  beforeAll(async () => {
    bench = await benchLab(() => clock);
    await listEight(bench);
  });
  afterAll(() => bench.fresh.close());

  it('comes from every stage in one shape', async () => {
    await planAll(lab(), bench.technician, { seed: 3 });
    await addInstrument(lab(), bench.fresh.admin, {
      kind: 'voltmeter',
      name: 'Bench voltmeter',
      accuracy: { gainPct: 0.05, offset: 0.001 },
      calibratedOn: '2025-03-01',
      dueOn: '2026-03-03',
    });
    const due = await items();
    expect(new Set(due.map(({ stage }) => stage))).toEqual(
      new Set(['arrivals', 'bench', 'evidence', 'verdicts']),
    );
    for (const item of due) {
      expect(URGENCIES).toContain(item.urgency);
      expect(item.path).toMatch(/^\//);
      expect(item.count).toBeGreaterThan(0);
      expect(item.count).toBeLessThanOrEqual(item.of);
    }
    expect(new Set(due.map(({ key }) => key)).size).toBe(due.length);
    expect(due.find(({ kind }) => kind === 'calibrationOverdue')!.note).toBe('Bench voltmeter');
  });

  it('counts as the lot’s own strip counts', async () => {
    const lot = (await openLots(lab()))[0]!;
    const { strokes } = await lotHead(lab(), bench.technician, { code: lot.code });
    const due = await items();
    const count = (kind: string) => due.find((item) => item.kind === kind)?.count ?? 0;
    expect(count('ready') + count('untested')).toBe(
      strokes.filter(({ mark }) => mark === 'untested').length,
    );
    expect(count('ready')).toBe(12);
  });

  it('what can hurt someone comes first, on Today and in the counts', async () => {
    await recordInspection(lab(), bench.technician, {
      lotId: bench.lotId,
      clientKey: randomUUID(),
      marks: [{ act: 'finding', cellIds: [bench.cells[11]!.id], code: 'leaking', note: null }],
    });
    const [first] = (await today(lab(), bench.technician, {})).items;
    expect(first).toMatchObject({ kind: 'quarantined', urgency: 'danger', count: 1 });
    const counts = await dueCounts(lab(), bench.technician, {});
    expect(counts.arrivals!.pressing).toBe(1);
    // The calibration that ended yesterday presses, too.
    expect(counts.evidence).toEqual({ pressing: 1, all: 1 });
  });

  it('a dispute window is told from its half on, and no longer after it', async () => {
    const lot = (await openLots(lab()))[0]!;
    const { version } = lot;
    await lab().store.lots.update({ arrivedOn: '2026-02-20' }, { id: lot.id });
    await changeClaim(lab(), bench.fresh.admin, {
      lotId: lot.id,
      version,
      claim: [
        { kind: 'capacity', value: 6, conditions: {} },
        { kind: 'disputeWindow', value: 30, conditions: {} },
      ],
    });
    const ends = async (on: string) => {
      clock = new Date(`${on}T12:00:00Z`);
      return (await items()).find(({ kind }) => kind === 'disputeEnds')?.at?.toISOString() ?? null;
    };
    // Thirty days from the 20th of February on, the last one whole.
    expect(await ends('2026-03-06')).toBeNull();
    expect(await ends('2026-03-08')).toBe('2026-03-23T00:00:00.000Z');
    expect(await ends('2026-03-10')).toBe('2026-03-23T00:00:00.000Z');
    expect(await ends('2026-03-23')).toBeNull();
    clock = NOW;
  });

  it('the calendar holds all that has a time, each under a name of its own', async () => {
    clock = new Date('2026-03-10T12:00:00Z');
    const text = (await dueCalendar(lab(), bench.technician, {})).replace(/\r\n /g, '');
    const jobs = (await planBoard(lab(), bench.technician, {})).jobs.flatMap(({ parts }) => parts);
    expect(text.match(/SUMMARY:Connect/g)).toHaveLength(jobs.length);
    expect(text).toContain('SUMMARY:Calibration of Bench voltmeter is due');
    expect(text).toMatch(/SUMMARY:Dispute window of \S+ ends/);
    const uids = text.match(/UID:\S+/g)!;
    expect(new Set(uids).size).toBe(uids.length);
    clock = NOW;
  });
});
