import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cutSections, LogRefusal, mainDischarge, readLog } from '../src/evidence';
import { parseClock, parseStamp } from '../src/evidence/reading/time-text';
import { recogniseColumns } from '../src/evidence/reading/roles';

const read = (text: string) => readLog(new TextEncoder().encode(text));
const roles = (header: string[], units: string[] | null = null) =>
  recogniseColumns(header, units).map((column) => column.role);

/** Forty rows: two at rest, then a steady discharge; written in any dialect. */
function discharge(
  write: (row: { t: number; v: number; i: number }) => string,
  header: string,
): string {
  const rows = Array.from({ length: 40 }, (_, k) => ({
    t: 10 * k,
    v: k < 2 ? 3.4 : 3.3 - 0.002 * k,
    i: k < 2 ? 0 : -2,
  }));
  return [header, ...rows.map(write)].join('\n') + '\n';
}
const expectSame = (text: string) => {
  const log = read(text);
  const found = mainDischarge(cutSections(log.trace))!;
  expect(found.ah).toBeCloseTo((2 * 370) / 3600, 6);
  expect(found.loadOnS).toBeCloseTo(20, 4);
  return log;
};

describe('column roles', () => {
  it.each([
    [
      ['time_s', 'voltage_V', 'current_A', 'temperature_C'],
      ['time', 'voltage', 'current', 'temperature'],
    ],
    [
      ['Test Time / s', 'Voltage / V', 'Current / A', 'Surface Temperature / degC'],
      ['time', 'voltage', 'current', 'temperature'],
    ],
    [
      ['Elapsed', 'Voltage(V)', 'Current(A)', 'Temp(C)'],
      ['time', 'voltage', 'current', 'temperature'],
    ],
    [
      ['ms', 'mV', 'mA', 'mAh'],
      ['time', 'voltage', 'current', 'counterAh'],
    ],
    [
      ['Step', 'Mode', 'Time (s)', 'U (V)', 'I (A)', 'T1 (°C)'],
      ['step', 'mode', 'time', 'voltage', 'current', 'temperature'],
    ],
    [
      ['unix_s', 'pack_A', 'cell1_V', 'cell2_V', 'cell3_V'],
      ['time', 'current', 'cellVoltage', 'cellVoltage', 'cellVoltage'],
    ],
    [
      ['Step Time (s)', 'Total Time (s)', 'Set Voltage (V)', 'Cell Voltage (V)', 'I/A'],
      ['ignored', 'time', 'ignored', 'voltage', 'current'],
    ],
    [
      ['Zeit [h]', 'Spannung [mV]', 'Strom [mA]', 'Kapazität [mAh]'],
      ['time', 'voltage', 'current', 'counterAh'],
    ],
    [
      ['timestamp', 'volts', 'amps', 'Ambient Temp (C)', 'Cell Temp (C)'],
      ['time', 'voltage', 'current', 'ignored', 'temperature'],
    ],
  ])('%j', (header, expected) => expect(roles(header)).toEqual(expected));

  it('takes units from a row of their own', () => {
    expect(roles(['t', 'U', 'I', 'T'], ['s', 'V', 'A', '°C'])).toEqual([
      'time',
      'voltage',
      'current',
      'temperature',
    ]);
  });
});

describe('times', () => {
  it.each([
    ['0:00:30', 30],
    ['29:18:16', 105496],
    ['1.02:00:00', 93600],
    ['2d 00:00:05', 172805],
    ['3:07,5', 187.5],
  ])('clock %s', (text, seconds) => expect(parseClock(text)).toBe(seconds));
  it('stamps keep their offset', () => {
    const before = parseStamp('2026-03-29T01:59:50+01:00');
    expect(parseStamp('2026-03-29T03:00:00+02:00') - before).toBe(10);
    expect(parseStamp('2026-03-29 01:00:00Z')).toBe(Date.UTC(2026, 2, 29, 1) / 1000);
    expect(parseStamp('29.03.2026 01:00:00')).toBe(Date.UTC(2026, 2, 29, 1) / 1000);
    expect(parseStamp('3/29/2026 1:00:00 PM', false)).toBe(Date.UTC(2026, 2, 29, 13) / 1000);
    expect(parseStamp('2026-02-30T00:00:00Z')).toBeNaN();
  });
});

describe('dialects give the same trace', () => {
  it('pipes, hours, milli-units, trailing delimiter', () => {
    expectSame(
      discharge(
        ({ t, v, i }) => `${(t / 3600).toFixed(9)}|${(v * 1000).toFixed(0)}|${i * 1000}|`,
        'Time/h|U/mV|I/mA|',
      ),
    );
  });
  it('columns aligned by spaces, comment lines', () => {
    expectSame(
      `# made by a logger\n${discharge(({ t, v, i }) => `  ${t}   ${v.toFixed(4)}  ${i}`, 'time_s voltage_V current_A')}`,
    );
  });
  it('date and clock in two columns, over midnight', () => {
    const stamp = (t: number) => new Date(Date.UTC(2026, 4, 1, 23, 58) + t * 1000).toISOString();
    const log = expectSame(
      discharge(
        ({ t, v, i }) =>
          `${stamp(t).slice(0, 10)};${stamp(t).slice(11, 19)};${v.toFixed(3).replace('.', ',')};${String(i)},0`,
        'Date;Time;U [V];I [A]',
      ),
    );
    expect(log.dialect.decimalMark).toBe(',');
    expect(log.trace.startedAtMs).toBe(Date.UTC(2026, 4, 1, 23, 58));
  });
  it('a day clock past midnight runs on and says so', () => {
    const clock = (t: number) =>
      new Date(Date.UTC(2026, 0, 1, 23, 57) + t * 1000).toISOString().slice(11, 19);
    const log = expectSame(
      discharge(({ t, v, i }) => `${clock(t)},${v.toFixed(3)},${i}`, 'clock,V,A'),
    );
    expect(log.findings.map((finding) => finding.code)).toContain('clock-past-midnight');
  });
  it('quoted cells, exponents, windows line ends, windows-1252 degree sign', () => {
    const text = discharge(
      ({ t, v, i }) => `"${t}","${v.toExponential(6)}","${i}",21.5`,
      'time (s),"voltage (V)",current (A),T (\u00b0C)',
    ).replaceAll('\n', '\r\n');
    const log = readLog(Uint8Array.from(text, (c) => c.charCodeAt(0)));
    expect(log.dialect.encoding).toBe('Windows-1252');
    expect(log.trace.temperatureC![0]).toBe(21.5);
    expect(mainDischarge(cutSections(log.trace))!.ah).toBeCloseTo((2 * 370) / 3600, 6);
  });
  it.each([
    ['two numbers among six words', 'Cell,B-0001,Channel,3,Lead,2'],
    ['one number beside one word', 'Channel,3'],
    ['a day and a number of four', 'Begun,2026-03-05,Rows,40,Operator,Tess'],
  ])('lines above the header are no readings: %s', (_, line) => {
    const table = discharge(
      ({ t, v, i }) => `${t},${v.toFixed(4)},${i},24.5,3,1`,
      'Time (s),Voltage (V),Current (A),Temperature (C),Step,Cycle',
    );
    const { trace } = expectSame(`${line}\n${line}\n${table}`);
    expect(trace.timeS).toHaveLength(40);
    expect(trace.temperatureC?.[0]).toBe(24.5);
  });
  it('UTF-16 without a mark', () => {
    const text = discharge(
      ({ t, v, i }) => `${t}\t${v.toFixed(3)}\t${i}`,
      'time_s\tvoltage_V\tcurrent_A',
    );
    const wide = new Uint8Array(2 * text.length);
    for (let k = 0; k < text.length; k++) wide[2 * k] = text.charCodeAt(k);
    expect(mainDischarge(cutSections(readLog(wide).trace))!.loadOnS).toBe(20);
  });
  it('dates that could be read either way are read so that the log is shorter', () => {
    const stamp = (t: number) => {
      const at = new Date(Date.UTC(2026, 2, 5, 23, 58) + t * 1000).toISOString();
      return `${at.slice(5, 7)}/${at.slice(8, 10)}/2026 ${at.slice(11, 19)}`;
    };
    const log = expectSame(
      discharge(
        ({ t, v, i }) => `${stamp(t)};${v.toFixed(3)};${i}`,
        'Date/Time;Voltage [V];Current [A]',
      ),
    );
    expect(log.trace.startedAtMs).toBe(Date.UTC(2026, 2, 5, 23, 58));
    expect(log.trace.holes).toEqual([]);
  });
  it('charge and discharge without signs are told apart across a hole', () => {
    const lines = ['time_s,voltage_V,current_A'];
    for (let k = 0; k < 60; k++) lines.push(`${10 * k},${(3.3 + 0.005 * k).toFixed(3)},2`);
    for (let k = 0; k < 60; k++) lines.push(`${4000 + 10 * k},${(3.5 - 0.006 * k).toFixed(3)},2`);
    const kinds = cutSections(read(lines.join('\n')).trace).map((section) => section.kind);
    expect(kinds).toEqual(['charge', 'discharge']);
  });
  it('power instead of current', () => {
    const log = read(
      discharge(
        ({ t, v, i }) => `${t},${v.toFixed(4)},${(v * i).toFixed(6)}`,
        'time_s,voltage_V,power_W',
      ),
    );
    expect(mainDischarge(cutSections(log.trace))!.ah).toBeCloseTo((2 * 370) / 3600, 4);
  });
  it('a bare voltage column in millivolts is taken as such, and said', () => {
    const log = expectSame(
      discharge(({ t, v, i }) => `${t},${(1000 * v).toFixed(0)},${i}`, 'time,voltage,current'),
    );
    expect(log.findings.map((finding) => finding.code)).toContain('unit-assumed');
  });
});

describe('refusals and repairs', () => {
  const refusalOf = (text: string): LogRefusal => {
    try {
      read(text);
    } catch (error) {
      return error as LogRefusal;
    }
    throw new Error('was read');
  };
  it('no header', () => expect(refusalOf('0,3.3,-1\n1,3.2,-1\n').code).toBe('no-header'));
  it('no time', () =>
    expect(refusalOf('voltage_V,current_A\n3.3,-1\n3.2,-1\n').message).toMatch(/no time column/));
  it('only prose', () =>
    expect(refusalOf('hello\nthere is no table here\n').code).toBe('no-data-rows'));
  it('all at one time', () =>
    expect(refusalOf('time_s,voltage_V\n5,3.3\n5,3.2\n5,3.1\n').code).toBe('no-time-span'));
  it('up to 1 % of text rows are left out, with the first named', () => {
    const lines = discharge(
      ({ t, v, i }) => `${t},${v.toFixed(3)},${i}`,
      'time_s,voltage_V,current_A',
    )
      .trimEnd()
      .split('\n');
    const many = [...lines, ...Array.from({ length: 200 }, (_, k) => `${400 + 10 * k},3.1,-2`)];
    many[50] = '490,OVLD,-2';
    const log = read(many.join('\n'));
    expect(log.findings[0]!.text).toMatch(/1 row.*row 51.*voltage_V.*OVLD/);
    expect(log.rows).toBe(239);
  });
  it('a header repeated by a restarted logger is passed over', () => {
    const text = discharge(
      ({ t, v, i }) => `${t},${v.toFixed(3)},${i}`,
      'time_s,voltage_V,current_A',
    );
    const lines = text.split('\n');
    lines.splice(20, 0, lines[0]!);
    expect(read(lines.join('\n')).rows).toBe(40);
  });
  it('never crashes: any bytes are read or refused', () => {
    const base = discharge(
      ({ t, v, i }) => `${t},${v.toFixed(3)},${i}`,
      'time_s,voltage_V,current_A',
    );
    fc.assert(
      fc.property(
        fc.nat(base.length - 1),
        fc.uint8Array({ maxLength: 40 }),
        fc.boolean(),
        (at, junk, cut) => {
          const bytes = new TextEncoder().encode(base);
          const mutated = new Uint8Array(cut ? at + junk.length : bytes.length + junk.length);
          mutated.set(bytes.subarray(0, at));
          mutated.set(junk, at);
          if (!cut) mutated.set(bytes.subarray(at), at + junk.length);
          try {
            expect(readLog(mutated).rows).toBeGreaterThan(1);
          } catch (error) {
            expect(error).toBeInstanceOf(LogRefusal);
          }
        },
      ),
      { numRuns: 400, seed: 11 },
    );
  });
});
