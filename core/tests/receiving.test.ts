import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  FINDING_KINDS,
  findingKind,
  findingsOf,
  gateOf,
  judgeSwelling,
  packCandidates,
  readOffer,
  recoveryCurrentA,
  TRIAGE_PROTOCOLS,
  triageCell,
  weighBox,
  worstSeverity,
} from '../src/arrivals';
import { CHEMISTRIES } from '../src/chemistry';

const { careful, recovery } = TRIAGE_PROTOCOLS;
const at = (voltage: number, more: object = {}) => ({
  lowestV: voltage,
  newestV: voltage,
  released: false,
  recovery: null,
  ...more,
});

describe('triage by first voltage', () => {
  it.each([
    ['NMC', 2.5, 'test'],
    ['NMC', 2.49, 'waitsForLead'],
    ['NMC', 1.5, 'waitsForLead'],
    ['NMC', 1.49, 'discard'],
    ['LFP', 2.0, 'test'],
    ['LFP', 1.9, 'waitsForLead'],
    ['LTO', 1.5, 'test'],
    ['LTO', 1.4, 'discard'],
    ['sodium-ion', 1.5, 'test'],
  ] as const)('careful: %s at %f V is for %s', (chemistry, voltage, outcome) => {
    expect(triageCell(careful, chemistry, at(voltage)).outcome).toBe(outcome);
  });

  it.each([
    [1.0, 'test'],
    [0.99, 'waitsForLead'],
    [0.1, 'waitsForLead'],
  ] as const)('recovery: %f V is for %s', (voltage, outcome) => {
    expect(triageCell(recovery, 'NMC', at(voltage)).outcome).toBe(outcome);
  });

  it('follows a released cell to its end', () => {
    const cell = at(0.6, { released: true });
    expect(triageCell(recovery, 'LFP', cell).outcome).toBe('recovering');
    expect(triageCell(recovery, 'LFP', { ...cell, recovery: 'recovered' }).outcome).toBe('test');
    expect(triageCell(recovery, 'LFP', { ...cell, recovery: 'noRise' }).outcome).toBe('discard');
    expect(triageCell(recovery, 'LFP', { ...cell, recovery: 'heat' }).outcome).toBe('discard');
  });

  it('judges by the lowest voltage: one that rose by itself is not forgiven', () => {
    expect(triageCell(careful, 'NMC', at(1.2, { newestV: 3.1 })).outcome).toBe('discard');
  });

  it('never lets a cell pass that a higher voltage would stop', () => {
    const rank = { discard: 0, waitsForLead: 1, recovering: 1, test: 2 };
    fc.assert(
      fc.property(
        fc.constantFrom(...CHEMISTRIES),
        fc.constantFrom(careful, recovery),
        fc.double({ min: 0, max: 4.3, noNaN: true }),
        fc.double({ min: 0, max: 2, noNaN: true }),
        (chemistry, protocol, voltage, more) => {
          const low = rank[triageCell(protocol, chemistry, at(voltage)).outcome];
          const high = rank[triageCell(protocol, chemistry, at(voltage + more)).outcome];
          expect(low).toBeLessThanOrEqual(high);
        },
      ),
    );
  });

  it('limits the current: 0.1 It and 200 mA, whichever is less', () => {
    expect(recoveryCurrentA(careful, 1.5)).toBeCloseTo(0.15);
    expect(recoveryCurrentA(careful, 6)).toBe(0.2);
    expect(recoveryCurrentA(careful, null)).toBe(0.2);
    expect(recoveryCurrentA(recovery, 0.5)).toBe(0.2);
  });

  it('never recovers a cell past its storage voltage', () => {
    expect(recovery.recoverToV('LTO')).toBe(2.25);
    expect(recovery.recoverToV('NMC')).toBe(3.0);
  });
});

describe('the gate before the bench', () => {
  const test = { outcome: 'test', reason: '' } as const;
  it('stops for the worst thing first', () => {
    const cell = { worst: null, inspected: true, triage: test, skipped: [] } as const;
    expect(gateOf(cell)).toBe('ready');
    expect(gateOf({ ...cell, worst: 'note' })).toBe('ready');
    expect(gateOf({ ...cell, worst: 'serious' })).toBe('blocked');
    expect(gateOf({ ...cell, worst: 'stop', triage: { outcome: 'discard', reason: '' } })).toBe(
      'quarantined',
    );
    expect(gateOf({ ...cell, triage: { outcome: 'waitsForLead', reason: '' } })).toBe(
      'waitsForLead',
    );
    expect(gateOf({ ...cell, triage: { outcome: 'recovering', reason: '' } })).toBe('recovering');
    expect(gateOf({ ...cell, triage: { outcome: 'discard', reason: '' } })).toBe('discard');
  });

  it('waits for what was not done, unless the lab left it out', () => {
    const cell = { worst: null, inspected: false, triage: null, skipped: [] };
    expect(gateOf(cell)).toBe('open');
    expect(gateOf({ ...cell, skipped: ['inspection'] })).toBe('open');
    expect(gateOf({ ...cell, skipped: ['inspection', 'firstVoltage'] })).toBe('ready');
    expect(gateOf({ ...cell, worst: 'stop', skipped: ['inspection', 'firstVoltage'] })).toBe(
      'quarantined',
    );
  });
});

describe('inspection', () => {
  it('judges swelling at its limits: 3 % note, 8 % stop', () => {
    expect(judgeSwelling(36, 36)).toEqual({ pct: 0, finding: null });
    expect(judgeSwelling(37.08, 36).finding).toBe('slightlySwollen');
    expect(judgeSwelling(37.07, 36).finding).toBe(null);
    expect(judgeSwelling(38.88, 36).finding).toBe('swollen');
    expect(judgeSwelling(38.87, 36).finding).toBe('slightlySwollen');
    expect(() => judgeSwelling(0, 36)).toThrow('above 0 mm');
  });

  it('offers each format what can occur in it', () => {
    const codes = (format: 'cylinder' | 'prism' | 'pouch') =>
      findingsOf(format).map((kind) => kind.code);
    expect(codes('cylinder')).toContain('sleeve');
    expect(codes('cylinder')).not.toContain('swollen');
    expect(codes('pouch')).toContain('gas');
    expect(codes('prism')).toContain('thread');
    expect(() => findingKind('dusty')).toThrow('no kind of finding');
  });

  it('knows how every serious finding is made good, and no stop', () => {
    for (const kind of FINDING_KINDS) {
      const madeGoodBy = 'madeGoodBy' in kind ? kind.madeGoodBy : undefined;
      expect(madeGoodBy !== undefined, kind.code).toBe(kind.severity === 'serious');
    }
    expect(worstSeverity(['note', 'stop', 'serious'])).toBe('stop');
    expect(worstSeverity([])).toBe(null);
  });
});

describe('the box on the scale', () => {
  const box = {
    grossG: 36_050,
    tareG: 1200,
    netG: null,
    scaleToleranceG: 20,
    cells: 240,
    cellMassG: 145,
    cellTolerancePct: null,
  };
  it('calls a difference within the scale’s tolerance noise', () => {
    // 34 850 g against 34 800 g: 50 g off; two weighings of ± 20 g allow 28 g.
    expect(weighBox(box)).toMatchObject({ netG: 34_850, differenceG: 50, verdict: 'heavy' });
    expect(weighBox({ ...box, grossG: 36_025 }).verdict).toBe('agrees');
    expect(weighBox({ ...box, cellTolerancePct: 1 }).verdict).toBe('agrees');
  });
  it('says by how much a box is light', () => {
    const light = weighBox({ ...box, grossG: null, tareG: null, netG: 30_624 });
    expect(light.verdict).toBe('light');
    expect(light.sentence).toContain('12.0 % light');
    expect(light.sentence).toContain('127.6 g each; 145.0 g is claimed');
  });
  it('says what is missing, and refuses what cannot be', () => {
    expect(weighBox({ ...box, tareG: null }).sentence).toContain('Weigh the full box');
    expect(weighBox({ ...box, cells: 0 }).sentence).toContain('Count the cells first');
    expect(weighBox({ ...box, cellMassG: null }).sentence).toContain('no mass is claimed');
    expect(() => weighBox({ ...box, tareG: 40_000 })).toThrow('above the tare');
    expect(() => weighBox({ ...box, tareG: null, netG: -1 })).toThrow('0 g or more');
  });
});

describe('what a pack’s label can mean', () => {
  it('reads 14.8 V and 57.7 Wh as 4S of 3.9 Ah, 1P or 2P', () => {
    const four = packCandidates(
      { voltageV: 14.8, capacityAh: null, energyWh: 57.7 },
      'cylinder',
    ).filter((candidate) => candidate.series === 4 && candidate.chemistry === 'LCO');
    expect(four[0]).toMatchObject({ series: 4, parallel: 1, odd: false });
    expect(four[0]!.groupAh).toBeCloseTo(3.9, 1);
    expect(four[1]!.cellAh).toBeCloseTo(1.95, 2);
  });
  it('shows 15.0 V as odd for four in series at 3.6 or 3.7', () => {
    const found = packCandidates({ voltageV: 15, capacityAh: 4, energyWh: null }, 'cylinder');
    for (const chemistry of ['NMC', 'LCO'] as const)
      expect(found.find((candidate) => candidate.chemistry === chemistry)).toMatchObject({
        series: 4,
        odd: true,
        perCellV: 3.75,
      });
    expect(found[0]).toMatchObject({
      chemistry: 'sodium-ion',
      series: 5,
      deviationPct: 0,
      odd: false,
    });
  });
  it('puts the true build of any label first among its chemistry, within 4 %', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 24 }),
        fc.integer({ min: 1, max: 6 }),
        fc.integer({ min: 2, max: 15 }),
        (s, p, ah) => {
          const found = packCandidates(
            { voltageV: s * 3.2, capacityAh: p * ah, energyWh: null },
            'cylinder',
          );
          expect(
            found.some(
              (c) =>
                c.chemistry === 'LFP' &&
                c.series === s &&
                c.parallel === p &&
                Math.abs(c.cellAh - ah) < 1e-9,
            ),
          ).toBe(true);
          expect(found.every((c) => Math.abs(c.deviationPct) <= 4 + 1e-9)).toBe(true);
          for (let i = 1; i < found.length; i++)
            expect(Math.abs(found[i]!.deviationPct)).toBeGreaterThanOrEqual(
              Math.abs(found[i - 1]!.deviationPct),
            );
        },
      ),
    );
  });
  it('refuses a label that says too little', () => {
    expect(() => packCandidates({ voltageV: 0, capacityAh: 1, energyWh: null }, 'pouch')).toThrow(
      'above 0 V',
    );
    expect(() =>
      packCandidates({ voltageV: 12, capacityAh: null, energyWh: null }, 'pouch'),
    ).toThrow('Ah or its energy');
  });
});

describe('an offer’s text', () => {
  it('reads what is said, and from which words', () => {
    const hints = readOffer(
      'Brand new LiFePO4 32700 cells, 6000mAh min, IR ≤ 9 mΩ, 145 g each, grade A, 240 pcs, 14 days return',
    );
    const of = (kind: string) => hints.find((hint) => hint.kind === kind);
    expect(of('capacity')).toMatchObject({ value: 6, from: '6000mAh' });
    expect(of('acResistance')).toMatchObject({ value: 9 });
    expect(of('mass')).toMatchObject({ value: 145 });
    expect(of('quantity')).toMatchObject({ value: 240 });
    expect(of('disputeWindow')).toMatchObject({ value: 14 });
    expect(of('condition')).toMatchObject({ text: 'new' });
    expect(of('grade')).toMatchObject({ text: 'grade A' });
    expect(of('sizeCode')).toMatchObject({ text: '32700' });
    expect(of('chemistry')).toMatchObject({ text: 'LFP' });
  });
  it('guesses nothing', () => {
    expect(readOffer('Cells, cheap, ask for more')).toEqual([]);
    expect(readOffer('')).toEqual([]);
    expect(readOffer('order 123456 for 5 ahead')).toEqual([]);
  });
});
