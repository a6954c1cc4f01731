import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { figuresOfLog, type LogMapping, LogRefusal, readLog, sketchOf } from '../src/evidence';

const text = (lines: string[]) => new TextEncoder().encode(`${lines.join('\n')}\n`);
const rows = (make: (i: number) => (number | string)[], n = 300) =>
  Array.from({ length: n }, (_, i) => make(i).join(','));
const column = (role: LogMapping['columns'][number]['role'], unit: string | null = null) => ({
  role,
  unit,
});

describe('columns assigned by hand', () => {
  const foreign = text([
    'alpha,beta,gamma,delta',
    ...rows((i) => [i * 10, 3300 - i, i < 5 ? 0 : 2000, 'x']),
  ]);
  const mapping: LogMapping = {
    columns: [
      column('time', 's'),
      column('voltage', 'mV'),
      column('current', 'mA'),
      column('ignored'),
    ],
    positiveDischarges: true,
  };

  it('a log with names nobody knows is refused, sketched, and read once they are assigned', () => {
    expect(() => readLog(foreign)).toThrow(LogRefusal);
    const sketch = sketchOf(foreign);
    expect(sketch.columns.map(({ header }) => header)).toEqual(['alpha', 'beta', 'gamma', 'delta']);
    expect(sketch.columns.every(({ role }) => role === 'ignored')).toBe(true);
    expect(sketch.rows[0]).toEqual(['0', '3300', '0', 'x']);
    const log = readLog(foreign, { mappings: { [sketch.shape]: mapping } });
    expect(log.trace.voltageV[0]).toBe(3.3);
    expect(log.trace.currentA![10]).toBe(-2);
    const { capacities } = figuresOfLog(log, { cutoffsV: [2.5], accuracy: null });
    expect(capacities![0]!.capacity.value).toBeCloseTo((2 * 294.5 * 10) / 3600, 3);
  });

  it('a log without a header is read by its columns', () => {
    const bare = text(rows((i) => [i, (3.3 - i * 0.001).toFixed(3), i < 5 ? 0 : -1.5]));
    expect(() => readLog(bare)).toThrow(/no header row/);
    const sketch = sketchOf(bare);
    expect(sketch.columns.map(({ header }) => header)).toEqual([
      'column 1',
      'column 2',
      'column 3',
    ]);
    const log = readLog(bare, {
      mappings: {
        [sketch.shape]: {
          columns: [column('time', 'min'), column('voltage', 'V'), column('current', 'A')],
          positiveDischarges: false,
        },
      },
    });
    expect(log.rows).toBe(300);
    expect(log.trace.timeS[1]).toBe(60);
    expect(log.trace.currentA![10]).toBe(-1.5);
  });

  it('what was assigned goes before what is recognised, and only for that shape', () => {
    const plain = new Uint8Array(
      readFileSync(join(import.meta.dirname, '..', 'fixtures', 'samples', '01-plain-seconds.csv')),
    );
    const { shape, columns } = sketchOf(plain);
    expect(columns.map(({ role }) => role)).toContain('voltage');
    const without: LogMapping = {
      columns: columns.map(({ role, unit }) => ({
        role: role === 'temperature' ? 'ignored' : role,
        unit: unit?.symbol ?? null,
      })),
      positiveDischarges: null,
    };
    expect(readLog(plain).trace.temperatureC).not.toBeNull();
    const mapped = readLog(plain, { mappings: { [shape]: without } });
    expect(mapped.trace.temperatureC).toBeNull();
    expect(mapped.trace.voltageV).toEqual(readLog(plain).trace.voltageV);
    expect(
      readLog(plain, { mappings: { '4-0000000000000000': without } }).trace.temperatureC,
    ).not.toBeNull();
    expect(sketchOf(foreign).shape).not.toBe(shape);
  });

  it('a mapping without a voltage is refused in words', () => {
    const { shape } = sketchOf(foreign);
    const none: LogMapping = { columns: [column('time', 's')], positiveDischarges: null };
    expect(() => readLog(foreign, { mappings: { [shape]: none } })).toThrow(/no voltage column/);
  });

  it('files that hold no table have no sketch', () => {
    expect(() => sketchOf(new Uint8Array(0))).toThrow(LogRefusal);
    expect(() => sketchOf(text(['hello', 'world']))).toThrow(LogRefusal);
  });
});
