import type { ArrivalCell } from '@dusk-tally/lab/arrivals';
import { findingsOf } from '@dusk-tally/core/arrivals';
import { describe, expect, it } from 'vitest';
import { costOf } from '../features/arrivals/claim-draft';
import {
  FINDING_KEYS,
  type Mark,
  palette,
  strokesOf,
  withMarks,
} from '../features/arrivals/inspection-marks';
import { inheritedHints } from '../features/arrivals/inherited';
import { looksScanned } from '@/kit/looks-scanned';
import { torqueWords } from '../features/arrivals/torque-words';
import { gatherStrokes, layoutTally, SIGNS, type TallyStroke } from '../kit/tally-layout';
import { countsInWords, describe as inWords } from '../kit/tally-marks';

describe('keys that run into a field', () => {
  it.each([
    '0FZCB31K204170E3D0004215',
    '6901234567892',
    'B-0017',
    's2611-30410',
    'https://cell.example/17',
  ])('%s was scanned', (keys) => expect(looksScanned(keys)).toBe(true));
  it.each(['0,43', '3290 mV', '3120 mAh', '0.00042 ohm', '-3', '45', '1234567', '43300.5 g'])(
    '%s was typed by a quick hand',
    (keys) => expect(looksScanned(keys)).toBe(false),
  );
});

const cell = (id: number, patch: Partial<ArrivalCell> = {}): ArrivalCell => ({
  id,
  number: `B-000${id}`,
  code: null,
  gate: 'open',
  inspected: false,
  worst: null,
  findings: [],
  ...patch,
});

describe('marks on their way', () => {
  const cells = [cell(1), cell(2), cell(3, { inspected: true, gate: 'ready' })];
  it('a finding shows at once; a clear only once it is stored', () => {
    const marks: Mark[] = [
      { act: 'finding', cellIds: [1], code: 'hot', note: null },
      { act: 'finding', cellIds: [2], code: 'scratches', note: null },
      { act: 'clearRest', except: [] },
    ];
    expect(withMarks(cells, marks).map((c) => [c.inspected, c.gate, c.worst])).toEqual([
      [true, 'quarantined', 'stop'],
      [true, 'open', 'note'],
      [true, 'ready', null],
    ]);
    const clear: Mark = { act: 'clear', cellIds: [1], seen: {} };
    expect(withMarks(cells, [clear])[0]).toMatchObject({ inspected: false, isOnItsWay: true });
  });
  it('leave out who is excepted, and nothing twice', () => {
    const once = withMarks(cells, [{ act: 'clearRest', except: [2] }]);
    expect(once.map((c) => c.isOnItsWay ?? false)).toEqual([true, false, false]);
    const twice = withMarks(cells, [
      { act: 'finding', cellIds: [3, 99], code: 'weld', note: null },
      { act: 'finding', cellIds: [3], code: 'weld', note: null },
    ]);
    expect(twice[2]).toMatchObject({ findings: ['weld'], gate: 'blocked' });
    expect(withMarks(cells, [])).toBe(cells);
  });
  it('become strokes with a sign each', () => {
    const strokes = strokesOf([
      cell(1, { gate: 'quarantined', inspected: true, worst: 'stop' }),
      cell(2, { gate: 'waitsForLead' }),
      cell(3, { gate: 'open', inspected: true, worst: 'note' }),
    ]);
    expect(strokes.map((stroke) => [stroke.mark, stroke.sign])).toEqual([
      ['seen', 'stop'],
      ['unseen', 'lead'],
      ['seen', 'note'],
    ]);
    expect(countsInWords(strokes)).toBe(
      'looked at 2, not looked at 1, in quarantine 1, waits for a lead 1, noted 1',
    );
    expect(inWords(strokes[1]!)).toBe('B-0002: not looked at, waits for a lead');
  });
});

describe('findings on the keyboard', () => {
  it.each(['cylinder', 'prism', 'pouch'] as const)(
    'each of a %s has a key of its own',
    (format) => {
      const keys = findingsOf(format).map((kind) => FINDING_KEYS[kind.code]);
      expect(keys.every((key) => key !== undefined && !['c', 'x', 'j'].includes(key))).toBe(true);
      expect(new Set(keys).size).toBe(keys.length);
      expect(palette(format).map((group) => group.severity)).toEqual(['stop', 'serious', 'note']);
    },
  );
});

describe('strokes with signs', () => {
  const stroke = (i: number, sign: TallyStroke['sign'] = null): TallyStroke => ({
    number: `B-${i}`,
    share: 0.99,
    mark: 'met',
    sign,
  });
  it('keep a second lane free for them', () => {
    const plain = layoutTally(gatherStrokes([stroke(1), stroke(2)], 1), 300, 60);
    const signed = layoutTally(gatherStrokes([stroke(1, 'stop'), stroke(2)], 1), 300, 60);
    expect(signed.placed[0]!.base).toBeLessThan(plain.placed[0]!.base);
    expect(signed.placed[0]!.base + 2 * signed.laneHeight).toBeLessThanOrEqual(60 + 1e-9);
  });
  it('the worst sign of a bunch stands for it', () => {
    const many = Array.from({ length: 400 }, (_, i) =>
      stroke(i, i === 77 ? 'stop' : i % 5 === 0 ? 'note' : null),
    );
    const bunched = gatherStrokes(many, 10);
    expect(bunched.filter((s) => s.sign === 'stop')).toHaveLength(1);
    expect(bunched.every((s) => s.sign !== null)).toBe(true);
    expect(SIGNS[0]).toBe('stop');
  });
});

describe('small words of receiving', () => {
  it('a discount may be a share of the price', () => {
    expect(costOf('4 %', '410')).toBe(16.4);
    expect(costOf('16,40', '410')).toBe(16.4);
    expect(costOf('4 %', '')).toBeNaN();
    expect(costOf('', '410')).toBeNull();
  });
  it('a torque is told or asked for, never guessed', () => {
    const model = { name: 'P104', terminalType: 'threadedHole' as const, terminalTorqueNm: null };
    expect(torqueWords(model)).toMatch(/not recorded: ask/);
    expect(torqueWords({ ...model, terminalTorqueNm: 4 })).toBe(
      'Terminals: threaded hole. Torque by the data sheet: 4 N·m.',
    );
    expect(torqueWords({ ...model, terminalType: 'tab' })).toBe('Terminals: tab.');
  });
  it('inherited values say where they come from', () => {
    const blank = {
      ratedAh: null,
      rateIt: null,
      cutoffV: null,
      chargeV: null,
      taperIt: 0.05,
      temperatureC: null,
      restMinutes: null,
      acResistanceMohm: null,
      dcResistanceMohm: null,
      maxChargeA: null,
      maxDischargeA: null,
      massG: 145,
      massTolerancePct: null,
      sizeTolerancePct: null,
    };
    expect(inheritedHints(blank, { cutoffV: 2.5, chargeV: 3.65 })).toMatchObject({
      capacity: { cutoffV: '2.5 (chemistry)', taperIt: '0.05 (data sheet)', rateIt: undefined },
      mass: { value: '145 (data sheet)' },
    });
  });
});
