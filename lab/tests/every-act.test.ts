import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { type Actor, LabError, type Procedure } from '../src';
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
import * as today from '../src/today';
import * as verdicts from '../src/verdicts';
import { claimedLot, type FreshLab, freshLab } from '../testing/fresh-lab';

type Act = Procedure<unknown, unknown>;
const isAct = (value: unknown): value is Act =>
  typeof value === 'function' && 'schema' in value && value.schema instanceof z.ZodType;

const STAGES = { arrivals, bench, disputes, evidence, gathering, lots, money, people };
const LATER = { records, reports, resting, suppliers, today, verdicts };
/** Every act and question of the lab, once, however many stages pass it on. */
const ACTS = [
  ...new Map(
    Object.values({ ...STAGES, ...LATER }).flatMap((stage) =>
      Object.entries(stage).flatMap(([name, value]) =>
        isAct(value) ? [[value, name] as const] : [],
      ),
    ),
  ),
].map(([act, name]): [string, Act] => [name, act]);

/** The part of a JSON schema inputs are made from. */
interface Shape {
  type?: string;
  enum?: unknown[];
  const?: unknown;
  anyOf?: Shape[];
  oneOf?: Shape[];
  allOf?: Shape[];
  required?: string[];
  properties?: Record<string, Shape>;
  items?: Shape;
  prefixItems?: Shape[];
  additionalProperties?: Shape | boolean;
  minimum?: number;
  exclusiveMinimum?: number;
  maximum?: number;
  minItems?: number;
  minLength?: number;
  maxLength?: number;
  format?: string;
}

const FORMATS: Record<string, string> = {
  uuid: '0b9f6a52-3f83-4b7e-8b93-9b1d1f6f2b11',
  date: '2026-03-02',
  'date-time': '2026-03-02T09:00:00Z',
  email: 'nobody@lab.example',
};

/** A number within its bounds; a row that is there, or one that is not. */
function numberFor({ type, minimum, exclusiveMinimum, maximum }: Shape, turn: number): number {
  const low = minimum ?? (exclusiveMinimum === undefined ? -Infinity : exclusiveMinimum + 1e-6);
  const wanted = [1, 999_999, 2][turn % 3]!;
  const within = Math.min(Math.max(wanted, low), maximum ?? Infinity);
  return type === 'integer' ? Math.ceil(within) : within;
}

/** Something of that shape: right in form, and about rows that may not be there. */
function inputFor(shape: Shape, turn: number): unknown {
  if (shape.const !== undefined) return shape.const;
  if (shape.enum) return shape.enum[turn % shape.enum.length];
  const ways = shape.anyOf ?? shape.oneOf;
  if (ways) return inputFor(ways[turn % ways.length]!, turn);
  if (shape.allOf)
    return Object.assign({}, ...shape.allOf.map((one) => inputFor(one, turn))) as unknown;
  switch (shape.type) {
    case 'object': {
      const named = Object.entries(shape.properties ?? {});
      const more = shape.additionalProperties;
      return Object.fromEntries([
        ...named.map(([name, one]) => [name, inputFor(one, turn)] as const),
        ...(named.length === 0 && typeof more === 'object'
          ? [['First', inputFor(more, turn)] as const]
          : []),
      ]);
    }
    case 'array':
      if (shape.prefixItems) return shape.prefixItems.map((one) => inputFor(one, turn));
      return Array.from({ length: Math.max(1, shape.minItems ?? 1) }, () =>
        inputFor(shape.items ?? {}, turn),
      );
    case 'integer':
    case 'number':
      return numberFor(shape, turn);
    case 'boolean':
      return turn % 2 === 0;
    case 'string':
      return (FORMATS[shape.format ?? ''] ?? 'a word or two').padEnd(shape.minLength ?? 0, '.');
    case 'null':
      return null;
    default:
      return turn % 2 === 0 ? 'a word or two' : { a: [1, null, 'b'] };
  }
}

const shapeOf = (act: Act): Shape =>
  z.toJSONSchema(act.schema, { unrepresentable: 'any', io: 'input' }) as Shape;

/** What became of it: an answer, or a refusal by its kind; anything else is thrown. */
async function outcomeOf(work: Promise<unknown>): Promise<string> {
  try {
    await work;
    return 'answered';
  } catch (error) {
    if (error instanceof LabError) return error.code;
    throw error;
  }
}

describe('every act and question', () => {
  let fresh: FreshLab;
  let technician: Actor;
  const chain = () => fresh.lab.store.auditEntries.count({});
  beforeAll(async () => {
    fresh = await freshLab();
    await claimedLot(fresh, 3);
    const { person } = await people.addPerson(fresh.lab, fresh.admin, {
      email: 'tern@lab.example',
      name: 'Tern Moss',
      role: 'technician',
    });
    technician = { ...fresh.admin, ...person };
  });
  afterAll(() => fresh.close());

  it('there are enough of them to be worth it', () => {
    expect(ACTS.length).toBeGreaterThan(150);
  });

  it.each(ACTS)('%s asks who it is, and reads before it does', async (_name, act) => {
    const before = await chain();
    const needsFields = (shapeOf(act).required ?? []).length > 0;
    expect(await outcomeOf(act(fresh.lab, null, {}))).toBe('notSignedIn');
    for (const wrong of [null, undefined, 'text', 7, [], [[{}]], { id: {} }, { lotId: 1.5 }]) {
      const outcome = await outcomeOf(act(fresh.lab, technician, wrong));
      if (needsFields) expect(['invalid', 'notAllowed', 'notFound', 'answered']).toContain(outcome);
    }
    // One that needs nothing to be said does what it does.
    if (needsFields) expect(await chain(), 'nothing was done').toBe(before);
  });

  /** What came of inputs that are right in form. */
  const told = new Map<string, number>();
  it.each(ACTS)('%s answers or refuses in words, whatever rows it is about', async (_name, act) => {
    for (let turn = 0; turn < 4; turn++) {
      const before = await chain();
      const input = inputFor(shapeOf(act), turn);
      const outcome = await outcomeOf(act(fresh.lab, fresh.admin, input));
      told.set(outcome, (told.get(outcome) ?? 0) + 1);
      if (outcome !== 'answered')
        expect(await chain(), `refused as ${outcome}, and nothing done`).toBe(before);
    }
  });

  it('most of those inputs went past the form, to where rows are looked for', () => {
    const all = [...told.values()].reduce((sum, n) => sum + n, 0);
    expect(all).toBe(4 * ACTS.length);
    expect((told.get('invalid') ?? 0) / all).toBeLessThan(0.5);
    expect(told.get('notFound')).toBeGreaterThan(100);
    expect(told.get('answered')).toBeGreaterThan(50);
  });
});
