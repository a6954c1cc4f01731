import { describe, expect, it } from 'vitest';
import {
  badNeighboursOf,
  checkResistances,
  compareCharges,
  cutSections,
  figuresOfLog,
  type JointEvidence,
  judgeJoint,
  leadFromSpots,
  readLog,
  stringResistances,
  throughInverter,
  unknownTesterAccuracy,
} from '../src/evidence';
import { seededRandom } from '../src/statistics';
import type { Figure } from '../src/units';
import { typedFigure } from '../src/verdicts';

const bytes = (lines: string[]) => new TextEncoder().encode(lines.join('\n') + '\n');

describe('leads from spot readings', () => {
  it('are the drop over the current; the error of the meters stays', () => {
    // 75 mV at 20 A are 3.75 mΩ; 2 mV over 20 A, rectangular, are 0.0577 mΩ.
    const found = leadFromSpots([{ currentA: 20, testerV: 3.125, cellV: 3.2 }]);
    expect(found.mohm).toBeCloseTo(3.75, 10);
    expect(found.mohm !== null && found.standardUncertaintyMohm).toBeCloseTo(
      (0.002 / Math.sqrt(3) / 20) * 1000,
      10,
    );
    expect(found.mohm !== null && found.offsetV).toBeNull();
  });
  it('two currents tell the leads from the difference of the meters', () => {
    const spot = (currentA: number) => ({
      currentA,
      testerV: 3.2,
      cellV: 3.2 + 0.004 + 0.0025 * currentA,
    });
    const found = leadFromSpots([spot(0), spot(10), spot(30)]);
    expect(found.mohm).toBeCloseTo(2.5, 9);
    expect(found.mohm !== null && found.offsetV).toBeCloseTo(0.004, 9);
  });
  it('refuses what cannot be leads', () => {
    expect(leadFromSpots([]).reason).toContain('under load');
    expect(leadFromSpots([{ currentA: 0, testerV: 3, cellV: 3 }]).reason).toContain('under load');
    expect(leadFromSpots([{ currentA: 5, testerV: 3.3, cellV: 3.2 }]).reason).toContain('swapped');
  });
  it('are found within their own error in 95 of 100 simulated benches', () => {
    const random = seededRandom(77);
    let inside = 0;
    for (let bench = 0; bench < 400; bench++) {
      const truth = 1 + 5 * random.uniform();
      const offset = 0.002 * (2 * random.uniform() - 1);
      const spots = [0, 5, 10, 20].map((currentA) => ({
        currentA,
        testerV: 3.2 - (truth / 1000) * currentA,
        cellV: 3.2 + offset + 0.0003 * random.normal(),
      }));
      const found = leadFromSpots(spots);
      if (found.mohm === null) throw new Error(found.reason);
      if (Math.abs(found.mohm - truth) <= 2 * found.standardUncertaintyMohm) inside++;
    }
    expect(inside / 400).toBeGreaterThanOrEqual(0.95);
  });
  it('uncertain leads widen a capacity that ends at the cut-off, and its energy more', () => {
    const lines = ['time_s,voltage_V,current_A', '0,3.4,0', '10,3.4,0'];
    for (let k = 0; k < 400; k++) lines.push(`${20 + 10 * k},${(3.2 - 0.002 * k).toFixed(4)},-20`);
    const log = readLog(bytes(lines));
    const at = (leadUncertaintyMohm: number) =>
      figuresOfLog(log, {
        cutoffsV: [2.6],
        accuracy: null,
        leadMohm: 4,
        leadUncertaintyMohm,
      }).capacities![0]!;
    const part = (figure: Figure) =>
      figure.budget.find(({ name }) => name === 'lead resistance')!.standardUncertainty;
    // |dQ/dV| of this log: 20 A over 10 s for 2 mV, or 27.78 Ah/V.
    const [narrow, wide] = [at(0.1), at(1)];
    expect(part(narrow.capacity)).toBeCloseTo((0.0001 * 20 * (20 * 10)) / 3600 / 0.002, 3);
    expect(part(wide.capacity) / part(narrow.capacity)).toBeCloseTo(10, 6);
    expect(part(wide.energy)).toBeGreaterThan(2.6 * part(wide.capacity));
    expect(wide.capacity.value).toBe(narrow.capacity.value);
  });
});

describe('AC against DC resistance', () => {
  it.each([
    ['an ordinary pair', 0.5, 1.2, []],
    ['AC above DC', 0.9, 0.5, ['ac-above-dc']],
    ['AC above DC within their error', 0.52, 0.5, []],
    ['a poor contact', 0.5, 7, ['dc-far-above-ac']],
    ['a tester that shows its own leads: 90 mΩ for a cell of 0.4', 0.4, 90, ['dc-holds-leads']],
    ['no AC', null, 90, []],
    ['no DC', 0.4, null, []],
  ])('%s', (_, acMohm, dcMohm, codes) => {
    const found = checkResistances({ acMohm, dcMohm, acU: 0.01, dcU: 0.02 });
    expect(found.map(({ code }) => code)).toEqual(codes);
  });
  it('an AC reading over the bar is told to be read again, not blamed on the probes', () => {
    const pair = { acMohm: 0.9, dcMohm: 0.5, acHoldsJoint: true };
    const [finding] = checkResistances({ ...pair, acU: 0.01, dcU: 0.02 });
    expect(finding!.text).toContain('over the joint');
    // Where one uncertainty is not known, it might explain it.
    expect(checkResistances({ ...pair, acU: 0.01, dcU: null })).toEqual([]);
  });
});

describe('cell or connection', () => {
  const plain: JointEvidence = {
    acZ: null,
    acMohm: null,
    lotAcMohm: null,
    tightened: null,
    badNeighbours: null,
    readInsideTester: false,
  };
  it('shows three facts always, and asks to repeat before blame', () => {
    const { facts, suspect, advice } = judgeJoint(plain);
    expect(facts).toHaveLength(3);
    expect(facts.every(({ answer }) => answer === 'unknown')).toBe(true);
    expect(suspect).toBe('open');
    expect(advice).toContain('re-tighten and repeat');
  });
  it('an ordinary AC resistance speaks for the joint', () => {
    const { suspect } = judgeJoint({ ...plain, acZ: 0.4, acMohm: 0.5, lotAcMohm: 0.49 });
    expect(suspect).toBe('joint');
  });
  it('a drop that went away speaks for the joint; one that stayed convicts the cell', () => {
    const tightened = (afterMohm: number) => ({ beforeMohm: 4, afterMohm, expandedMohm: 0.1 });
    expect(judgeJoint({ ...plain, tightened: tightened(1.2) }).suspect).toBe('joint');
    expect(judgeJoint({ ...plain, tightened: tightened(3.9) }).suspect).toBe('cell');
  });
  it('a bad AC resistance alone does not convict', () => {
    const bad = { ...plain, acZ: 9, acMohm: 3, lotAcMohm: 0.5 };
    expect(judgeJoint(bad).suspect).toBe('open');
    expect(
      judgeJoint({ ...bad, tightened: { beforeMohm: 9, afterMohm: 9, expandedMohm: 0.1 } }).suspect,
    ).toBe('cell');
  });
  it('a bad neighbour on the same bar speaks for the joint', () => {
    expect(judgeJoint({ ...plain, badNeighbours: ['cell 4'] }).suspect).toBe('joint');
    expect(judgeJoint({ ...plain, badNeighbours: [] }).suspect).toBe('open');
  });
  it('voltage read inside the tester says nothing about the cell', () => {
    expect(judgeJoint({ ...plain, readInsideTester: true }).advice).toContain('on the terminals');
  });
});

describe('a string between two loads', () => {
  const mohm = [1.0, 1.05, 0.98, 1.02, 4.0, 3.6, 1.01, 0.99];
  const log = (loads: number[]) => {
    const lines = [`time_s,current_A,${mohm.map((_, i) => `cell${i + 1}_V`).join(',')}`];
    let t = 0;
    for (const amps of loads)
      for (let k = 0; k < 20; k++)
        lines.push(
          [
            t++,
            -amps,
            ...mohm.map((r, i) => (3.3 + 0.002 * i - (r / 1000) * amps).toFixed(4)),
          ].join(','),
        );
    return readLog(bytes(lines));
  };
  it('gives each cell its ΔV / ΔI with what its last digit allows', () => {
    const { trace } = log([0, 30, 60, 0]);
    const found = stringResistances(trace, cutSections(trace), unknownTesterAccuracy(60))!;
    expect([found.lowA, found.highA]).toEqual([30, 60]);
    found.cells.forEach(({ figure }, i) => {
      expect(Math.abs(figure.value - mohm[i]!)).toBeLessThanOrEqual(
        2 * figure.standardUncertainty!,
      );
    });
    expect(found.cells.flatMap(({ position, standsOut }) => (standsOut ? [position] : []))).toEqual(
      [5, 6],
    );
    expect(badNeighboursOf(found.cells, 5)).toEqual(['cell 6']);
    expect(badNeighboursOf(found.cells, 2)).toEqual([]);
  });
  it('goes down in load as well as up', () => {
    const { trace } = log([0, 60, 20, 0]);
    const found = stringResistances(trace, cutSections(trace), unknownTesterAccuracy(60))!;
    expect(found.cells[4]!.figure.value).toBeCloseTo(4, 1);
  });
  it('says nothing where there is one load only, or no cells', () => {
    const { trace } = log([0, 30, 31, 0]);
    expect(stringResistances(trace, cutSections(trace), unknownTesterAccuracy(30))).toBeNull();
    expect(
      stringResistances({ ...trace, cellVoltagesV: [] }, [], unknownTesterAccuracy(30)),
    ).toBeNull();
  });
});

describe('three ways to one charge', () => {
  const way = (name: 'integrated' | 'counter' | 'typed', ah: number) => ({
    way: name,
    ah,
    expandedAh: null,
  });
  it('agree within half a per cent, or it is a finding', () => {
    expect(compareCharges([way('integrated', 100)])).toBeNull();
    expect(compareCharges([way('integrated', 100), way('counter', 100.4)])!.findings).toEqual([]);
    const { findings, apart } = compareCharges([
      way('integrated', 100),
      way('counter', 100.2),
      way('typed', 101),
    ])!;
    expect(apart).toBeCloseTo(1 / 100.5, 6);
    expect(findings.map(({ code }) => code)).toEqual(['typed-disagrees', 'typed-disagrees']);
  });
  it('names slips of a recognisable size', () => {
    expect(
      compareCharges([way('integrated', 3.1), way('typed', 3100)])!.findings[0]!.text,
    ).toContain('mAh');
    expect(
      compareCharges([way('integrated', 100), way('typed', 190)])!.findings[0]!.text,
    ).toContain('counter not zeroed');
  });
});

describe('through an inverter', () => {
  const energy = (value: number, u: number): Figure => ({
    quantity: 'energy',
    value,
    unit: 'Wh',
    standardUncertainty: u,
    bound: 'exact',
    method: { name: 'test', version: 1 },
    inputs: [],
    steps: [],
    findings: [],
    budget: [],
  });
  it('efficiency, losses and their uncertainty', () => {
    const { result } = throughInverter(
      energy(1000, 3),
      { value: 920, standardUncertainty: 4.6 },
      3600,
    );
    expect(result!.efficiency.value).toBeCloseTo(0.92, 10);
    // 0.3 % and 0.5 % of 0.92 in quadrature.
    expect(result!.efficiency.standardUncertainty).toBeCloseTo(0.92 * Math.hypot(0.003, 0.005), 10);
    expect(result!.losses.value).toBe(80);
    expect(result!.losses.standardUncertainty).toBeCloseTo(Math.hypot(3, 4.6), 10);
    expect(result!.meanLossW).toBe(80);
  });
  it('more out than in is refused, but not within the error', () => {
    expect(
      throughInverter(energy(1000, 3), { value: 1100, standardUncertainty: 2 }, null).reason,
    ).toContain('more than');
    expect(
      throughInverter(energy(1000, 5), { value: 1005, standardUncertainty: 5 }, null).result,
    ).not.toBeNull();
  });
  it('AC energy alone only says at least', () => {
    const typed = { value: 920, gainPct: 2, offset: 0, decimals: 0, source: 'test' };
    expect(typedFigure('energyBehindInverter', typed).bound).toBe('atLeast');
  });
});
