import { describe, expect, it } from 'vitest';
import { leastFastLossV, lossesAgainstLot } from '../src/resting';
import { seededRandom } from '../src/statistics';

describe('losses against the lot', () => {
  const cell = (i: number, lossMv: number, more: object = {}) => ({
    cell: `B-${i}`,
    lossV: lossMv / 1000,
    fromDays: 1,
    toDays: 14,
    readOn: 100,
    resolutionV: 0.001,
    ...more,
  });
  const lot = (losses: number[]) => losses.map((loss, i) => cell(i, loss));

  it('names the one far beyond the median, by z and by volts', () => {
    const losses = lot([5, 5.2, 4.8, 5.1, 4.9, 5, 5.3, 4.7, 25]);
    const { cells, refused } = lossesAgainstLot(losses, 'NMC');
    expect(refused).toBeNull();
    expect(cells.filter(({ isFastLoser }) => isFastLoser).map((one) => one.cell)).toEqual(['B-8']);
    // By z alone 6 mV more would do; by volts it does not, and an LFP cell asks for less.
    const near = lot([5, 5.2, 4.8, 5.1, 4.9, 5, 5.3, 4.7, 11]);
    const fast = (chemistry: 'NMC' | 'LFP') =>
      lossesAgainstLot(
        near.map((one) => ({ ...one, resolutionV: 0.0001 })),
        chemistry,
      ).cells.filter((one) => one.isFastLoser).length;
    expect([fast('NMC'), fast('LFP')]).toEqual([0, 1]);
  });

  it('takes the spread no smaller than half the meter’s resolution', () => {
    const same = lot([5, 5, 5, 5, 5, 5, 5, 5, 7]);
    const { cells, spreadV } = lossesAgainstLot(same, 'LFP');
    expect(spreadV).toBe(0.0005);
    expect(cells[8]!.z).toBeCloseTo((0.6745 * 0.002) / 0.0005, 6);
  });

  it('one coarse reading is no scale of its lot, and hides no fast loser beside it', () => {
    const losses = [
      ...lot([5, 5.2, 4.8, 5.1, 4.9, 5, 5.3, 4.7, 25]),
      cell(9, 0, { resolutionV: 0.1 }),
    ];
    const { cells, spreadV } = lossesAgainstLot(losses, 'NMC');
    expect(spreadV).toBeLessThan(0.001);
    expect(cells.filter(({ isFastLoser }) => isFastLoser).map((one) => one.cell)).toEqual(['B-8']);
    // Its own z is told by its own step.
    expect(Math.abs(cells[9]!.z!)).toBeLessThan(0.1);
  });

  it('tells nothing from fewer than 8, and leaves out what was read at another time', () => {
    expect(lossesAgainstLot(lot([5, 5, 5, 5, 5, 5, 30]), 'NMC').refused).toMatch(/from 8 on/);
    const late = [...lot([5, 5.1, 5.2, 4.9, 5, 5, 4.8, 5.1]), cell(9, 60, { readOn: 104 })];
    const { cells, apart } = lossesAgainstLot(late, 'NMC');
    expect(cells).toHaveLength(8);
    expect(apart.map((one) => one.cell)).toEqual(['B-9']);
  });

  it('asks of each chemistry for its own loss', () => {
    expect(leastFastLossV('LFP')).toBe(0.003);
    expect(leastFastLossV('NMC')).toBeCloseTo(0.008, 9);
    expect(leastFastLossV('LTO')).toBeLessThan(0.008);
  });

  it('finds 95 % of fast losers in 200 lots of 60, and names at most 1 % of the others', () => {
    const random = seededRandom(9);
    let [fast, found, sound, named] = [0, 0, 0, 0];
    for (let one = 0; one < 200; one++) {
      const isFast = Array.from({ length: 60 }, (_, i) => i < 3);
      const losses = isFast.map((is, i) =>
        // The median loses 10 mV, cells differ by a tenth of it, the meter reads to 1 mV.
        cell(i, Math.round((is ? 30 : 10) * (1 + 0.1 * random.normal()))),
      );
      const { cells } = lossesAgainstLot(losses, 'NMC');
      cells.forEach(({ isFastLoser }, i) => {
        if (isFast[i]) {
          fast++;
          found += Number(isFastLoser);
        } else {
          sound++;
          named += Number(isFastLoser);
        }
      });
    }
    expect(found / fast).toBeGreaterThanOrEqual(0.95);
    expect(named / sound).toBeLessThanOrEqual(0.01);
  });
});
