import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import * as arrivals from '../src/arrivals';
import * as bench from '../src/bench';
import * as disputes from '../src/disputes';
import * as evidence from '../src/evidence';
import * as gathering from '../src/gathering';
import * as lots from '../src/lots';
import * as money from '../src/money';
import * as people from '../src/people';
import * as records from '../src/records';
import * as reports from '../src/reports';
import * as resting from '../src/resting';
import * as suppliers from '../src/suppliers';
import { fieldWords, refusalOf } from '../src/inputs';
import * as today from '../src/today';
import * as verdicts from '../src/verdicts';

const isAct = (value: unknown): value is { schema: z.ZodType } =>
  typeof value === 'function' && 'schema' in value && value.schema instanceof z.ZodType;

const STAGES = [
  ...[arrivals, bench, disputes, evidence, gathering, lots, money],
  ...[people, records, reports, resting, suppliers, today, verdicts],
];
const SCHEMAS = STAGES.flatMap((stage) =>
  Object.entries(stage).flatMap(([name, value]): [string, z.ZodType][] =>
    isAct(value) ? [[name, value.schema]] : [],
  ),
);

/** What no person should ever read. */
const MACHINE =
  /[a-z]\.\d+(\.|:|$)|expected (string|number|object|array|int|boolean)|received|invalid (input|option|string)|too (small|big)|NaN|[<>]=|undefined|\[object|zod/i;

/** Values that fit nowhere, or only by chance. */
const WRONG: fc.Arbitrary<unknown> = fc.oneof(
  fc.constantFrom<unknown>(null, undefined, NaN, Infinity, -1, 1e300, 0.5, '', true, [], {}),
  fc.constantFrom<unknown>('x'.repeat(2000), [null], [{}], [{ kind: 'capacity' }], { a: 1 }),
  fc.double(),
  fc.string(),
);

const refused = (schema: z.ZodType, input: unknown): string | null => {
  const result = schema.safeParse(input);
  return result.success ? null : refusalOf(result.error, input).message;
};

/** Names of the fields a schema knows, its unions’ too. */
function namesIn(schema: z.ZodType): string[] {
  const json = JSON.stringify(z.toJSONSchema(schema, { unrepresentable: 'any', io: 'input' }));
  return [...json.matchAll(/"([a-zA-Z]\w*)":\{/g)].map(([, name]) => name!);
}

describe('refusals', () => {
  it('there are acts and questions enough to be worth it', () => {
    expect(SCHEMAS.length).toBeGreaterThan(100);
  });

  it.each(SCHEMAS)('%s refuses in words of the person', (_name, schema) => {
    const names = [...new Set(namesIn(schema))];
    const field = names.length > 0 ? fc.constantFrom(...names) : fc.constant('none');
    const nested = fc.dictionary(field, WRONG, { maxKeys: 6 });
    const input = fc.dictionary(
      field,
      fc.oneof(WRONG, nested, fc.array(nested, { maxLength: 2 })),
      {
        maxKeys: 8,
      },
    );
    fc.assert(
      fc.property(input, (wrong) => {
        const message = refused(schema, wrong);
        // What a person typed may stand in a message as they typed it.
        expect(message?.replace(/“[^”]*”/g, '') ?? '').not.toMatch(MACHINE);
      }),
      { numRuns: 60 },
    );
    for (const whole of [null, undefined, 'text', 3, []])
      expect(refused(schema, whole) ?? '').not.toMatch(MACHINE);
  });

  it.each<[PropertyKey[], unknown, string]>([
    [['claim', 0, 'value'], { claim: [{ kind: 'capacity' }] }, 'Capacity'],
    [
      ['claim', 1, 'conditions', 'cutoffV'],
      { claim: [{}, { kind: 'capacity' }] },
      'Capacity, cutoff / V',
    ],
    [['readings', 0, 'value'], { readings: [{ kind: 'other' }] }, 'Reading 1'],
    [['supplierName'], {}, 'Supplier'],
    [['costs', 'price'], {}, 'Costs, price'],
    [['limits', 'maxDischargeA'], {}, 'Limits, max discharge / A'],
    [['cellIds', 3], { cellIds: [] }, 'Cell 4'],
    [[], {}, ''],
  ])('%j is said as a person sees it', (path, input, words) =>
    expect(fieldWords(path, input)).toBe(words),
  );
});
