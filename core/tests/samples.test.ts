import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { figuresOfLog, LogRefusal, readLog } from '../src/evidence';

const folder = join(import.meta.dirname, '..', 'fixtures', 'samples');
const bytesOf = (name: string) => new Uint8Array(readFileSync(join(folder, name)));

interface Truth {
  cutoffs?: Record<string, { reached: boolean; ah?: number; wh?: number; ah_at_least?: number }>;
  r10s_mohm?: number;
  r_dc_mohm?: number;
  leader_share?: number[];
  lead_mohm?: number;
  counter_start_ah?: number;
}
const truth = JSON.parse(readFileSync(join(folder, 'truth.json'), 'utf8')) as Record<string, Truth>;

function figures(name: string, leadMohm?: number) {
  const cutoffsV = Object.keys(truth[name]?.cutoffs ?? {}).map(Number);
  const log = readLog(bytesOf(name));
  return { log, ...figuresOfLog(log, { cutoffsV, accuracy: null, leadMohm }) };
}

/** Share allowed by the samples' README. */
const tolerance = (name: string): number =>
  name.startsWith('05') ? 0.003 : name.startsWith('08') ? 0.0015 : 0.001;

const withCapacity = Object.entries(truth).filter(([, t]) => t.cutoffs);

describe('sample logs against their known truth', () => {
  it.each(withCapacity)('%s: capacity and energy', (name, { cutoffs, lead_mohm }) => {
    const { capacities } = figures(name, lead_mohm);
    for (const [cutoff, known] of Object.entries(cutoffs!)) {
      const found = capacities!.find((entry) => entry.cutoffV === Number(cutoff))!;
      const ah = known.ah ?? known.ah_at_least!;
      expect(found.capacity.bound).toBe(known.reached ? 'exact' : 'atLeast');
      expect(Math.abs(found.capacity.value / ah - 1)).toBeLessThan(tolerance(name));
      if (known.wh)
        expect(Math.abs(found.energy.value / known.wh - 1)).toBeLessThan(tolerance(name));
      expect(found.capacity.budget.length).toBeGreaterThan(3);
    }
  });

  it.each(Object.entries(truth).filter(([name, t]) => t.r10s_mohm && !name.startsWith('15')))(
    '%s: 10 s resistance within 3 %, or a reason',
    (name, { r10s_mohm, lead_mohm }) => {
      const { r10s } = figures(name, lead_mohm).resistance;
      // Rows further apart than a fifth of ten seconds do not allow it.
      if (r10s.figure) expect(Math.abs(r10s.figure.value / r10s_mohm! - 1)).toBeLessThan(0.03);
      else expect(r10s.reason).toMatch(/apart, not closer than 2.0 s|current column/);
    },
  );

  it('15: rows ten seconds apart allow the resistance after 10 s no more, and say so', () => {
    const { r10s } = figures('15-resistor-load.csv').resistance;
    expect(r10s.reason).toMatch(/apart, not closer than/);
  });

  it('09: five phases, an hour of rest before the discharge', () => {
    const { sections, restBeforeS } = figures('09-charge-rest-discharge-recharge.csv');
    expect(sections.map((section) => section.kind)).toEqual([
      'charge',
      'rest',
      'discharge',
      'rest',
      'charge',
    ]);
    expect(restBeforeS).toBe(3600);
    expect(sections[0]!.ah).toBeCloseTo(4.2706, 2);
  });

  it('10: leader shares within 0.02 of the truth', () => {
    const shares = figures('10-multi-cell-charge.csv').leaderShare!;
    truth['10-multi-cell-charge.csv']!.leader_share!.forEach((share, i) =>
      expect(Math.abs(shares[i]! - share)).toBeLessThan(0.02),
    );
    expect(shares.reduce((a, b) => a + b)).toBeCloseTo(1, 9);
  });

  it('11: the hole is bridged and reported, repeats dropped, order restored', () => {
    const { log, ...made } = figures('11-gap-duplicates-disorder.csv');
    const said = made.findings.map((finding) => finding.code);
    expect(said.filter((code) => /^(hole|repeated|rows)/.test(code)).sort()).toEqual([
      'hole',
      'repeated-rows',
      'rows-out-of-order',
    ]);
    expect(log.trace.timeS.every((t, i, all) => i === 0 || t > all[i - 1]!)).toBe(true);
  });

  it('13: the broken tail is dropped and reported', () => {
    const { log } = figures('13-cut-off-mid-line.csv');
    expect(log.findings.map((finding) => finding.code)).toEqual(['broken-tail']);
    expect(log.rows).toBe(3631);
  });

  it('16: the counter’s start is subtracted and reported', () => {
    const { counter } = figures('16-meter-not-zeroed.csv');
    expect(counter!.startAh).toBeCloseTo(1.988, 6);
    expect(counter!.findings.map((finding) => finding.code)).toContain('counter-not-zeroed');
    expect(counter!.ah).toBeCloseTo(5.918, 2);
  });

  it('18: a pulse of one second in rows a second apart gives no two-step resistance, and says so', () => {
    const { twoStep } = figures('18-two-step-dc-pulse.csv').resistance;
    expect(twoStep.reason).toMatch(/1\.0 s apart, coarser than 0\.2 s/);
  });

  it('96: hostile text in a column nobody needs does no harm', () => {
    expect(readLog(bytesOf('96-formula-injection.csv')).rows).toBe(2);
  });

  it.each([
    ['91-empty.csv', 'empty-file', null, /empty.*Expected/],
    ['92-header-only.csv', 'no-data-rows', 1, /header.*Expected/],
    ['93-binary.csv', 'not-text', 1, /not text.*Expected/],
    ['94-no-voltage.csv', 'no-voltage', 1, /no voltage column.*humidity/],
    ['95-text-in-numbers.csv', 'text-in-numbers', 3, /voltage_V.*expected a number, found “ERR”/],
  ])('%s is refused, saying where and what was expected', (name, code, row, message) => {
    let refusal: unknown;
    try {
      readLog(bytesOf(name));
    } catch (error) {
      refusal = error;
    }
    expect(refusal).toBeInstanceOf(LogRefusal);
    expect(refusal).toMatchObject({ code, row });
    expect((refusal as LogRefusal).message).toMatch(message);
  });
});
