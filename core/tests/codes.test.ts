import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  compileTemplate,
  daysBetween,
  daysInMonth,
  decodeGbt34014,
  mondayOfWeek,
  monthsBetween,
  readCode,
  summariseCodes,
  weeksInYear,
} from '../src/arrivals';

const GOOD = '0FZCB31K204170E3D0004215';
const refusal = (text: string, arrivedOn?: string) => {
  const reading = decodeGbt34014(text, { arrivedOn });
  if (reading.ok) throw new Error(`${text} was read`);
  return reading;
};

describe('GB/T 34014-2017', () => {
  it('reads the chapter’s example', () => {
    expect(decodeGbt34014(GOOD)).toMatchObject({
      ok: true,
      maker: '0FZ',
      product: 'cell',
      chemistries: ['LFP'],
      specification: '31',
      trace: 'K204170',
      producedFrom: '2024-03-13',
      producedUntil: '2024-03-13',
      serial: '0004215',
    });
  });

  it('takes lower case and blanks, and shows upper case', () => {
    expect(decodeGbt34014(' 0fzcb31k20 4170e3d0004215\n')).toMatchObject({ ok: true, code: GOOD });
  });

  it.each([
    ['0FZCB31K20417ED70004215', 'length', 'has 23 characters, 24 are needed'],
    ['0FZCB31K204170ED70004215', 'month', 'month code D, which is no month'],
    ['0FZCB31K204170E2Y0004215', 'noSuchDay', 'day 30 of month 2 in 2024'],
    ['0FZCB31K204170D2X0004215', 'noSuchDay', 'day 29 of month 2 in 2023'],
    ['0FZCB31K204170O3D0004215', 'year', 'year code O'],
    ['0FZCB31K204170E3I0004215', 'day', 'I, O, Q, U and Z are not used'],
    ['0FZCB31K20417003D0004215', 'year', 'year code 0'],
    ['0FZXB31K204170E3D0004215', 'product', 'P (pack), M (module) or C (cell)'],
    ['0FZCH31K204170E3D0004215', 'chemistry', 'A to G or Z'],
    ['0FZCB31K204170E3D-004215', 'character', '“-” at position 18'],
    ['', 'empty', 'no code'],
  ])('refuses %s for its %s', (text, reason, words) => {
    const { reason: found, message } = refusal(text);
    expect(found).toBe(reason);
    expect(message).toContain(words);
  });

  it('refuses a date after arrival, and takes the day of arrival itself', () => {
    expect(refusal(GOOD, '2024-03-12')).toMatchObject({ reason: 'afterArrival' });
    expect(decodeGbt34014(GOOD, { arrivedOn: '2024-03-13' }).ok).toBe(true);
  });

  it('takes the leap day of a leap year', () => {
    expect(decodeGbt34014('0FZCB31K204170E2X0004215')).toMatchObject({
      producedFrom: '2024-02-29',
    });
  });

  it('reads every day from 2011 to 2040 as it is written', () => {
    const years = '123456789ABCDEFGHJKLMNPRSTVWXY';
    const months = '123456789ABC';
    const days = '123456789ABCDEFGHJKLMNPRSTVWXY0';
    fc.assert(
      fc.property(
        fc.integer({ min: 2011, max: 2040 }),
        fc.integer({ min: 1, max: 12 }),
        fc.integer({ min: 1, max: 31 }),
        (year, month, day) => {
          const code = `0FZCB31K204170${years[year - 2011]}${months[month - 1]}${days[day - 1]}0000001`;
          const reading = decodeGbt34014(code);
          const date = new Date(Date.UTC(year, month - 1, day));
          if (date.getUTCMonth() !== month - 1) expect(reading.ok).toBe(false);
          else expect(reading).toMatchObject({ producedFrom: date.toISOString().slice(0, 10) });
        },
      ),
    );
  });

  it('never throws, whatever is scanned', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 40 }), (text) => {
        const reading = decodeGbt34014(text);
        if (!reading.ok) expect(reading.message.length).toBeGreaterThan(5);
      }),
    );
  });
});

describe('templates for other codes', () => {
  it('reads named parts, a week as the span it is', () => {
    const template = compileTemplate({
      name: 'Marl',
      pattern: 'MT{plant:1}{year:2}{week:2}-{serial:5}',
    });
    expect(template.parts).toEqual(['plant', 'year', 'week', 'serial']);
    expect(template.read('mtK2607-00412')).toMatchObject({
      ok: true,
      producedFrom: '2026-02-09',
      producedUntil: '2026-02-15',
      serial: '00412',
      trace: 'plant K',
    });
    expect(template.read('MTK2654-00412')).toMatchObject({ ok: false, reason: 'day' });
    expect(template.read('MTK2607-0041')).toMatchObject({ ok: false, reason: 'shape' });
  });

  it('reads month letters, days of the year and single-digit years', () => {
    const monthly = compileTemplate({ name: 'm', pattern: '{year:1}{month:1}{day:2}{serial}' });
    expect(monthly.read('5B3007', { arrivedOn: '2026-01-10' })).toMatchObject({
      producedFrom: '2025-11-30',
    });
    expect(monthly.read('7B3007', { arrivedOn: '2026-01-10' })).toMatchObject({
      producedFrom: '2017-11-30',
    });
    const ofYear = compileTemplate({ name: 'd', pattern: '{year:4}{day:3}{any:2}' });
    expect(ofYear.read('2024366XY')).toMatchObject({ producedFrom: '2024-12-31' });
    expect(ofYear.read('2023366XY')).toMatchObject({ ok: false, reason: 'noSuchDay' });
    expect(monthly.read('5D3007')).toMatchObject({ ok: false, reason: 'month' });
  });

  it.each([
    ['{serial', 'without “}”'],
    ['serial}', 'without “{”'],
    ['ABC', 'at least one part'],
    ['{colour:2}', 'is no part'],
    ['{year:3}', 'length of 1 or 2 or 4'],
    ['{serial:3}{serial:2}', 'stands twice'],
    ['{year:2}{week:2}{month:2}', 'not both'],
    ['{month:2}{serial:3}', 'Expected a year'],
    ['{serial:0}', 'above 0'],
  ])('says what is wrong with %s', (pattern, words) => {
    expect(() => compileTemplate({ name: 'x', pattern })).toThrow(words);
  });

  it('treats text between parts as it stands, signs and all', () => {
    const template = compileTemplate({ name: 'x', pattern: 'A.B({serial:2})' });
    expect(template.read('A.B(12)').ok).toBe(true);
    expect(template.read('AXB(12)').ok).toBe(false);
  });

  it('an open part takes letters and digits, nothing that stands between them', () => {
    const template = compileTemplate({ name: 'x', pattern: '{any}/{serial}' });
    expect(template.read('AZ09/17')).toMatchObject({ ok: true });
    for (const text of ['A-Z/17', 'A.B/17', 'A/B/17', '@A/17', '[A/17', '/17', 'A/'])
      expect(template.read(text).ok, text).toBe(false);
  });

  it('lets own templates go first and names the rule that came closest', () => {
    const templates = [compileTemplate({ name: 'own', pattern: 'W{year:2}{month:2}{serial:4}' })];
    expect(readCode('W26051234', templates)).toMatchObject({ ok: true, scheme: 'own' });
    expect(readCode(GOOD, templates)).toMatchObject({ ok: true, scheme: 'GB/T 34014-2017' });
    expect(readCode('W26131234', templates)).toMatchObject({ ok: false, reason: 'month' });
    expect(readCode(GOOD.slice(1), templates)).toMatchObject({ ok: false, reason: 'length' });
    expect(readCode('hello', templates)).toMatchObject({ ok: false, reason: 'shape' });
  });
});

describe('the calendar', () => {
  it('counts ISO weeks: known years with 53, and the Monday of week 1', () => {
    expect([2015, 2020, 2026, 2032].map(weeksInYear)).toEqual([53, 53, 53, 53]);
    expect([2024, 2025, 2027].map(weeksInYear)).toEqual([52, 52, 52]);
    expect(mondayOfWeek(2026, 1)).toBe('2025-12-29');
    expect(mondayOfWeek(2021, 1)).toBe('2021-01-04');
  });

  it('counts whole months', () => {
    expect(monthsBetween('2024-03-13', '2026-05-12')).toBe(25);
    expect(monthsBetween('2024-03-13', '2026-05-13')).toBe(26);
    expect(daysBetween('2024-02-28', '2024-03-01')).toBe(2);
    expect(daysInMonth(2100, 2)).toBe(28);
  });
});

describe('what the codes of a lot tell', () => {
  const cell = (number: string, code: string | null) => ({
    number,
    code,
    reading: code === null ? null : decodeGbt34014(code, { arrivedOn: '2026-05-20' }),
  });
  const context = {
    arrivedOn: '2026-05-20',
    claimedNew: true,
    producedAfter: '2024-06-01',
    chemistry: 'LFP' as const,
    elsewhere: new Map([['0FZCB31K204170E3D0004217', 'B-0003 in L-001']]),
    makerName: (maker: string) => (maker === '0FZ' ? 'Fallow Zinc Works' : null),
  };
  const summary = summariseCodes(
    [
      cell('B-0010', GOOD),
      cell('B-0011', GOOD),
      cell('B-0012', '0FZCB31K204170E3D0004217'),
      cell('B-0013', '0FZCE31K204170G1D0004218'),
      cell('B-0014', '1AACB31K204170G1D0004219'),
      cell('B-0015', 'nonsense'),
      cell('B-0016', null),
    ],
    context,
  );
  const of = (kind: string) => summary.findings.find((finding) => finding.kind === kind);

  it('finds copies within the lot and in others', () => {
    expect(of('copied')).toMatchObject({ cells: ['B-0010', 'B-0011'] });
    expect(of('copied')!.sentence).toContain('1 code stands on more than one cell, 2 cells in all');
    expect(of('copiedElsewhere')!.sentence).toContain('B-0012 as B-0003 in L-001');
  });

  it('tells ages, dates and their spread', () => {
    expect(summary.ageDays).toEqual({ least: 127, most: 798 });
    expect(summary.dates).toEqual([
      { day: '2024-03-13', count: 3 },
      { day: '2026-01-13', count: 2 },
    ]);
    expect(summary.spanDays).toBe(671);
    expect(of('mixed')!.sentence).toContain('671 days apart');
    expect(of('aged')).toMatchObject({ cells: ['B-0010', 'B-0011', 'B-0012'] });
    expect(of('aged')!.sentence).toContain('26 months old on arrival');
    expect(of('older')!.sentence).toContain('3 cells were made before 2024-06-01');
  });

  it('finds what contradicts the claim, is unreadable or missing', () => {
    expect(of('chemistry')).toMatchObject({ cells: ['B-0013'] });
    expect(of('makers')).toMatchObject({ cells: ['B-0014'] });
    expect(of('makers')!.sentence).toContain('Fallow Zinc Works 4');
    expect(of('refused')).toMatchObject({ cells: ['B-0015'] });
    expect(of('missing')).toMatchObject({ cells: ['B-0016'] });
    expect(summary).toMatchObject({ coded: 6, missing: 1, read: 5 });
  });

  it('has nothing to say of a lot without codes', () => {
    expect(summariseCodes([cell('B-1', null)], context)).toMatchObject({
      findings: [],
      ageDays: null,
      spanDays: null,
    });
  });
});
