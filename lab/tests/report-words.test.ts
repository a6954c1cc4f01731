import { CLAIM_ITEMS, CLAIM_KINDS, FINDING_KINDS } from '@dusk-tally/core/arrivals';
import { CLAMPINGS, clampingDifference } from '@dusk-tally/core/chemistry';
import { carryToClaim } from '@dusk-tally/core/evidence';
import {
  gradeCell,
  type GradeEvidence,
  SHIPPED_SCHEME,
  VERDICT_WORDS,
} from '@dusk-tally/core/verdicts';
import fc from 'fast-check';
import sharp from 'sharp';
import { REST_OUTCOMES, type RestOutcome } from '@dusk-tally/core/resting';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { heldWords } from '../src/reports/held-words';
import { restWords } from '../src/reports/reported-rest';
import { CAUTIONS, reportWords } from '../src/compute';
import { changeSettings, labSettings, reportMark, setReportMark } from '../src/people';
import { issueReport, reportPage, reportPdf } from '../src/reports';
import {
  arrivalWords,
  claimLines,
  methodWords,
  notTestedWords,
  ruleWords,
} from '../src/reports/reported-words';
import { recordReadings } from '../src/evidence';
import { failure } from '../testing/failure';
import { claimedLot, type FreshLab, freshLab } from '../testing/fresh-lab';
import { pdfText } from '../testing/pdf-text';

/** A text in German; fails where the catalogue does not know it. */
function german(text: string): string {
  const missed: string[] = [];
  const said = reportWords('de', (unknown) => missed.push(unknown)).say(text);
  expect(missed, text).toEqual([]);
  return said;
}

/** Numbers in a text, in order of size, a comma as a point, days as their three numbers. */
const numbersIn = (text: string): string[] =>
  [
    ...text
      .replace(/(\d{2})\.(\d{2})\.(\d{4})/g, '$3 $2 $1')
      .replace(/(\d{4})-(\d{2})-(\d{2})/g, '$1 $2 $3')
      .replace(/(\d),(\d)/g, '$1.$2')
      .matchAll(/\d+(?:\.\d+)?/g),
  ]
    .map(([number]) => number)
    .sort();

describe('what reports say in German', () => {
  it.each([
    ...FINDING_KINDS.map(({ words }) => words),
    ...CLAIM_KINDS.map((kind) => CLAIM_ITEMS[kind].words),
    ...CLAIM_KINDS.flatMap((kind) =>
      CLAIM_ITEMS[kind].conditions.flatMap((spec) =>
        Object.values(spec.choices ?? { any: `7${spec.unit ? ` ${spec.unit}` : ''}` }).map(
          (value) => `${spec.words} ${value}`,
        ),
      ),
    ),
    ...['[]', '["adhesive"]', '["adhesive","scratches","label"]'].flatMap((findings) =>
      [3.295, null].map(
        (firstV) =>
          `On arrival: ${arrivalWords({
            inspected: true,
            findings,
            firstV,
            producedOn: '2024-09-13',
            lowestV: 0.62,
          } as never).join('; ')}.`,
      ),
    ),
    ...Object.values(VERDICT_WORDS),
    ...CAUTIONS,
    ...methodWords(
      { cutoffV: { value: 2.5 } } as never,
      [
        { number: 'B-0001', capacity: { method: 'hand-log' }, rest: ['stood'] },
        { number: 'B-0002', capacity: { method: 'typed-capacity' } },
        { number: 'B-0003', capacity: { method: 'capacity' } },
      ] as never,
      true,
    ),
    ...(Object.keys(REST_OUTCOMES) as RestOutcome[]).flatMap((outcome) =>
      restWords({
        protocol: { name: 'against the lot' },
        outcome,
        detail: {
          days: 14.2,
          slope: { value: -0.203, standardUncertainty: 0.02 },
          monthly: { value: 1.31, standardUncertainty: 0.3 },
          retention: { value: 0.972, standardUncertainty: 0.004 },
        },
      } as never),
    ),
    ...restWords({ protocol: { name: 'own' }, outcome: 'reject', detail: { days: null } } as never),
    ...[0, 1, 1.5].flatMap(ruleWords),
    ...heldWords('prism', ['fixture', 'free', null]),
    'The sample of the lot was opened again on 2026-11-02 by Ines Tregarth: the channel was off',
    ...[clampingDifference('fixture', 'free')!, clampingDifference('free', 'fixture')!],
    ...CLAMPINGS.map((claimed) => clampingDifference(claimed, null)!),
    ...notTestedWords([
      { number: 'B-0001', capacity: null, acResistance: null },
      { number: 'B-0002', capacity: null, acResistance: 1 },
    ] as never),
    ...claimLines({
      items: [
        {
          kind: 'capacity',
          value: 104,
          from: 'claim',
          conditions: CLAMPINGS.map((value) => ({ name: 'clamping', value, from: 'model' })),
        },
        { kind: 'acResistance', value: 0.5, from: 'model', conditions: [] },
        { kind: 'mass', value: 1980, from: 'chemistry', conditions: [] },
        { kind: 'quantity', value: 240, from: 'claim', conditions: [] },
        { kind: 'disputeWindow', value: 30, from: 'claim', conditions: [] },
      ],
    } as never).flatMap(({ name, value, conditions }) => [name, value, ...conditions.split(', ')]),
  ])('knows “%s”, and keeps its numbers', (text) => {
    expect(numbersIn(german(text))).toEqual(numbersIn(text));
  });

  it('says numbers and days as they are written there', () => {
    expect(german('calibrated 2026-03-02, due 2027-03-02')).toBe(
      'kalibriert 02.03.2026, fällig 02.03.2027',
    );
    expect(german('at least 99.52 ± 0.41')).toBe('mindestens 99,52 ± 0,41');
    expect(german('Not First yet: waiting for the self-discharge check.')).toBe(
      'Noch nicht First: wartet auf die Prüfung der Selbstentladung.',
    );
    expect(
      german(
        'Calibration of Tester v1.2, channel 3 was overdue on the day of the test (due 2026-01-31).',
      ),
    ).toBe(
      'Die Kalibrierung von Tester v1.2, channel 3 war am Tag der Prüfung überfällig (fällig 31.01.2026).',
    );
    expect(german('SoH 98.6 ± 1.2 %: 0.2 % below 100.0 %')).toBe(
      'SoH 98,6 ± 1,2 %: 0,2 % unter 100,0 %',
    );
  });

  it('tells of what it does not know, and leaves it as it is', () => {
    const missed: string[] = [];
    expect(reportWords('de', (text) => missed.push(text)).say('something quite new')).toBe(
      'something quite new',
    );
    expect(missed).toEqual(['something quite new']);
  });

  it('knows every reason a grade can have', () => {
    const estimate = fc.record({
      value: fc.double({ min: 0.3, max: 1.4, noNaN: true }),
      standardUncertainty: fc.option(fc.double({ min: 0.001, max: 0.05, noNaN: true })),
      bound: fc.constantFrom('exact' as const, 'atLeast' as const),
    });
    const evidence: fc.Arbitrary<GradeEvidence> = fc.record({
      stateOfHealth: fc.option(estimate, { nil: undefined }),
      acResistanceShare: fc.option(estimate, { nil: undefined }),
      selfDischarge: fc.constantFrom(undefined, 'met', 'notMet'),
      inspection: fc.constantFrom(undefined, 'none', 'note', 'serious', 'stop'),
      marks: fc.constantFrom(undefined, { deepestV: 0.62 }, { dangerous: 'gas pillow' }),
    });
    fc.assert(
      fc.property(evidence, (known) => {
        for (const reason of gradeCell(SHIPPED_SCHEME, known, 1).reasons)
          expect(numbersIn(german(reason))).toEqual(numbersIn(reason));
      }),
      { seed: 271_127, numRuns: 400 },
    );
  });
  it('knows every way a result is carried to its claim, or is not', () => {
    const maybe = (min: number, max: number) => fc.option(fc.double({ min, max, noNaN: true }));
    fc.assert(
      fc.property(
        fc.record({ rateIt: maybe(0.05, 2), temperatureC: maybe(5, 40) }),
        fc.record({
          meanCurrentA: maybe(5, 200),
          meanTemperatureC: maybe(5, 40),
          restAfterChargeS: maybe(0, 5000),
          restBeforeS: maybe(0, 5000),
          roomC: fc.constantFrom(null, [18, 26] as const),
        }),
        fc.boolean(),
        (claim, run, repeats) => {
          const carried = carryToClaim(
            { value: 101, standardUncertainty: 0.3, bound: 'exact' },
            { ...claim, cutoffV: 2.5 },
            { ...run, ratedAh: 104 },
            undefined,
            null,
            repeats ? { relative: 0.0025, source: 'from this lab’s repeats' } : null,
          );
          const texts = carried.comparable
            ? [...carried.corrections.map(({ text }) => text), ...carried.remarks]
            : [...carried.reasons, ...carried.remarks];
          for (const text of texts) expect(numbersIn(german(text))).toEqual(numbersIn(text));
        },
      ),
      { seed: 271_128, numRuns: 400 },
    );
  });
});

describe('a report in the lab’s language and with its mark', () => {
  let fresh: FreshLab;
  let lotId: number;
  let cellId: number;
  beforeAll(async () => {
    fresh = await freshLab();
    lotId = (await claimedLot(fresh, 1)).id;
    cellId = (await fresh.lab.store.cells.one({ lotId }))!.id;
    await recordReadings(fresh.lab, fresh.admin, {
      lotId,
      readings: [
        {
          cellId,
          kind: 'acResistance',
          value: 0.43,
          decimals: 2,
          clientKey: crypto.randomUUID(),
        },
      ],
    } as never);
  });
  afterAll(() => fresh.close());

  const picture = async (width: number, height: number) =>
    new Uint8Array(
      await sharp({ create: { width, height, channels: 3, background: '#204060' } })
        .jpeg()
        .toBuffer(),
    );
  const mark = async (bytes: Uint8Array<ArrayBuffer> | null) => {
    const { version } = await labSettings(fresh.lab, fresh.admin, {});
    await setReportMark(fresh.lab, fresh.admin, { version, picture: bytes, reason: 'a new mark' });
  };
  const issue = async (language?: 'en' | 'de') => {
    const { number } = await issueReport(fresh.lab, fresh.admin, {
      lotId,
      cellIds: [cellId],
      customer: 'Tidewright Buoys',
      language,
    });
    const [{ snapshot }, pdf] = await Promise.all([
      reportPage(fresh.lab, fresh.admin, { number }),
      reportPdf(fresh.lab, fresh.admin, { number }),
    ]);
    return { snapshot, pdf: new Uint8Array(pdf), text: await pdfText(pdf) };
  };

  it('is in the language of the settings unless it says its own', async () => {
    const english = await issue();
    expect(english.text).toContain('Cautions for use and storage');
    const {
      id: _,
      holdLimits: __,
      markId: ___,
      ...settings
    } = await labSettings(fresh.lab, fresh.admin, {});
    await changeSettings(fresh.lab, fresh.admin, {
      ...settings,
      language: 'de',
      reason: 'customers read German',
    });
    const germanOne = await issue();
    expect(germanOne.snapshot.language).toBe('de');
    expect(germanOne.text).toContain('Warnhinweise für Gebrauch und Lagerung');
    expect(germanOne.text).toContain('0,430');
    expect(germanOne.text).not.toMatch(/\b(the|with|and|without|cells|capacity)\b/);
    expect((await issue('en')).text).toContain('Cautions for use and storage');
  });

  it('carries the mark that was set when it was issued, made small and anew', async () => {
    const before = await issue('en');
    expect(before.snapshot.lab.mark).toBeUndefined();
    await mark(await picture(3000, 900));
    const after = await issue('en');
    expect(after.snapshot.lab.mark).toMatchObject({ width: 617, height: 185 });
    expect(after.snapshot.lab.mark!.png).toMatch(/^data:image\/png;base64,/);
    expect(Buffer.from(after.pdf).toString('latin1')).toContain('/Subtype /Image');
    expect(Buffer.from(before.pdf).toString('latin1')).not.toContain('/Subtype /Image');
    await mark(null);
    expect(await reportMark(fresh.lab, fresh.admin, {})).toBeNull();
    expect((await issue('en')).snapshot.lab.mark).toBeUndefined();
    const kept = await reportPage(fresh.lab, fresh.admin, { number: after.snapshot.number });
    expect(kept.snapshot.lab.mark).toEqual(after.snapshot.lab.mark);
  });

  it.each([
    ['no picture', async () => new TextEncoder().encode('not a picture'), /no whole picture/],
    ['an empty file', async () => new Uint8Array(0), /an empty file/],
    ['a picture cut short', async () => (await picture(400, 100)).subarray(0, 300), /no whole/],
    ['nothing, where there is none', async () => null, /carry no mark already/],
  ])('refuses %s', async (_what, bytes, words) => {
    expect((await failure(bytes().then(mark))).message).toMatch(words);
  });
});
