import { gzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import {
  channelsInLog,
  compressLog,
  figuresOfLog,
  LogRefusal,
  memorySource,
  readLog,
  type ReadLog,
  readLongLog,
} from '../src/evidence';
import { parseClock, parseStamp, timeStyleOf } from '../src/evidence/reading/time-text';
import { recordDischarge, typicalCell } from '../src/simulator';

const ROWS = recordDischarge(typicalCell('NMC', 5), {
  currentA: 2.5,
  cutoffV: 2.8,
  intervalS: 30,
  restBeforeS: 300,
  restAfterS: 120,
  ambientC: 23,
  seed: 9,
});
type Row = (typeof ROWS)[number];
const bytes = (text: string) => new TextEncoder().encode(text);
const csv = (head: string, cells: (row: Row, i: number) => (string | number)[], rows = ROWS) =>
  bytes(`${[head, ...rows.map((row, i) => cells(row, i).join(','))].join('\n')}\n`);
const plain = (row: Row) => [row.voltageV.toFixed(3), row.currentA.toFixed(3)];
const ahOf = (log: ReadLog) =>
  figuresOfLog(log, { cutoffsV: [3], accuracy: null }).capacities![0]!.capacity;
const TRUE_AH = ahOf(
  readLog(csv('time_s,voltage_V,current_A', (row) => [row.timeS, ...plain(row)])),
).value;

/** Reads whole and in pieces, and has to find the same charge both ways. */
function same(raw: Uint8Array, options: Parameters<typeof readLog>[1] = {}): ReadLog {
  const log = readLog(raw, options);
  expect(ahOf(log).value / TRUE_AH).toBeCloseTo(1, 3);
  expect(ahOf(log).bound).toBe('exact');
  const long = readLongLog(memorySource(raw), { ...options, cutoffsV: [3] }).log;
  expect(ahOf(long).value / TRUE_AH).toBeCloseTo(1, 3);
  return log;
}
const START = Date.UTC(2026, 10, 27, 9, 30);
const pad = (n: number) => String(n).padStart(2, '0');
const clock = (s: number) =>
  `${pad(Math.floor(s / 3600) % 24)}:${pad(Math.floor(s / 60) % 60)}:${pad(s % 60)}`;
const half = (s: number) => {
  const h = Math.floor(s / 3600) % 24;
  return `${h % 12 || 12}:${pad(Math.floor(s / 60) % 60)}:${pad(s % 60)} ${h < 12 ? 'AM' : 'PM'}`;
};

describe('clocks of twelve hours', () => {
  it.each([
    ['1:02:03 PM', 13 * 3600 + 123],
    ['12:00:00 AM', 0],
    ['12:00:00 p.m.', 12 * 3600],
    ['11:59 pm', 23 * 3600 + 59 * 60],
  ])('%s', (text, seconds) => {
    expect(timeStyleOf(text)).toBe('clock');
    expect(parseClock(text)).toBe(seconds);
  });

  it('a log over noon, and over midnight, with and without a date beside', () => {
    const over = (from: number) => (row: Row) => [half(from + row.timeS), ...plain(row)];
    same(csv('Time,Voltage (V),Current (A)', over(10 * 3600)));
    same(csv('Time,Voltage (V),Current (A)', over(23 * 3600)));
    same(
      csv('Date,Time,Voltage (V),Current (A)', (row) => [
        '11/27/2026',
        half(10 * 3600 + row.timeS),
        ...plain(row),
      ]),
    );
    same(
      csv('Timestamp,Voltage (V),Current (A)', (row) => [
        `2026-11-27 ${half(10 * 3600 + row.timeS)}`,
        ...plain(row),
      ]),
    );
  });
});

describe('months by their names', () => {
  it.each([
    '27 Nov 2026 10:00:01',
    '27-Nov-2026 10:00:01',
    '27-nov-26 10:00:01',
    '27. November 2026 10:00:01',
    'Nov 27, 2026 10:00:01 AM',
    'November 27 2026 10:00:01',
    'Fri Nov 27 10:00:01 2026',
    'Fri, 27 Nov 2026 10:00:01',
    '27 novembre 2026 10:00:01',
    '27 de noviembre de 2026 10:00:01',
    '27 november 2026 10:00:01',
  ])('%s', (text) => {
    expect(timeStyleOf(text)).toBe('stamp');
    expect(parseStamp(text)).toBe(Date.UTC(2026, 10, 27, 10, 0, 1) / 1000);
  });

  it('of every month in five languages and English', () => {
    const names = [
      'January February March April May June July August September October November December',
      'Januar Februar März April Mai Juni Juli August September Oktober November Dezember',
      'janvier février mars avril mai juin juillet août septembre octobre novembre décembre',
      'enero febrero marzo abril mayo junio julio agosto septiembre octubre noviembre diciembre',
      'gennaio febbraio marzo aprile maggio giugno luglio agosto settembre ottobre novembre dicembre',
      'januari februari maart april mei juni juli augustus september oktober november december',
    ];
    for (const own of names)
      own.split(' ').forEach((name, month) => {
        const at = Date.UTC(2026, month, 5, 8) / 1000;
        expect([name, parseStamp(`5 ${name} 2026 08:00`)]).toEqual([name, at]);
      });
    expect(timeStyleOf('5 Smarch 2026 08:00')).toBeNull();
  });

  it('a whole log', () => {
    const months = ['Okt', 'Nov', 'Dez'];
    same(
      csv('Zeit,Spannung (V),Strom (A)', (row) => {
        const at = new Date(START + 1000 * row.timeS);
        return [
          `${at.getUTCDate()}-${months[at.getUTCMonth() - 9]}-2026 ${clock((at.getTime() / 1000) % 86_400)}`,
          ...plain(row),
        ];
      }),
    );
  });
});

describe('day and month', () => {
  const dated = (dates: (day: number) => string, from: number) =>
    csv('time,voltage_V,current_A', (row) => [
      `${dates(Math.floor((from + row.timeS) / 86_400))} ${clock(Math.floor(from + row.timeS) % 86_400)}`,
      ...plain(row),
    ]);
  it('are told by a part above 12 wherever it comes, and by the day after', () => {
    same(dated((day) => `12/${12 + day}/2026`, 85_000));
    same(dated((day) => `0${4 + day}/03/2026`, 85_000));
    same(dated((day) => `03/0${4 + day}/2026`, 85_000));
  });
  it('that cannot be told are asked about: the intervals are right, the day is not taken', () => {
    const log = same(dated(() => '03/04/2026', 30_000));
    expect(log.findings.map(({ code }) => code)).toContain('date-unclear');
    expect(log.trace.startedAtMs).toBeNull();
    const told = same(dated(() => '03.04.2026', 30_000));
    expect(told.findings.map(({ code }) => code)).not.toContain('date-unclear');
    expect(new Date(told.trace.startedAtMs!).toISOString().slice(0, 10)).toBe('2026-04-03');
  });
});

describe('packed logs', () => {
  const text = csv('time_s,voltage_V,current_A', (row) => [row.timeS, ...plain(row)]);
  it('gzip is unpacked, and refused in words where it is damaged', () => {
    same(gzipSync(text));
    const cut = gzipSync(text);
    cut[40]! ^= 0xff;
    expect(() => readLog(cut)).toThrow(LogRefusal);
  });
  it('JSON lines, nested or listed, with a last line cut off', () => {
    const line = (row: Row) => ({
      t_s: row.timeS,
      cell: { voltage_V: Number(plain(row)[0]), current_A: Number(plain(row)[1]) },
    });
    const lines = ROWS.map((row) => JSON.stringify(line(row)));
    same(bytes(lines.join('\n')));
    same(bytes(`${lines.join('\r\n')}\r\n{"t_s": 1234`));
    same(bytes(JSON.stringify(ROWS.map(line))));
    same(gzipSync(bytes(lines.join('\n'))));
    same(
      bytes(
        ROWS.map((row) =>
          JSON.stringify({
            timestamp: new Date(START + 1000 * row.timeS).toISOString(),
            voltage: plain(row)[0],
            current: plain(row)[1],
          }),
        ).join('\n'),
      ),
    );
    expect(() => readLog(bytes(`{"a":1}\n{oops\n{"a":2}\n`))).toThrow(
      /Row 2: expected one JSON object/,
    );
  });

  it('rows of JSON lines are named by their lines in the file, whole and piece by piece', () => {
    const lines = Array.from({ length: 200 }, (_, i) =>
      JSON.stringify({
        time_s: 10 * i,
        voltage_V: 3.3 - i / 1000,
        current_A: i >= 50 && i < 53 ? 'OVLD' : i > 3 ? -1 : 0,
      }),
    );
    // A blank line is a line of the file, too.
    const file = new TextEncoder().encode(`${lines[0]}\n\n${lines.slice(1).join('\n')}\n`);
    for (const read of [() => readLog(file), () => compressLog(memorySource(file))])
      expect(read).toThrow(/^Row 52, column “current_A”/);
  });
  it('UTF-16 of either order, with and without its mark', () => {
    const wide = (mark: boolean, big: boolean) => {
      const source = new TextDecoder().decode(text);
      const raw = new Uint8Array(2 * source.length + (mark ? 2 : 0));
      const view = new DataView(raw.buffer);
      if (mark) view.setUint16(0, 0xfeff, !big);
      for (let i = 0; i < source.length; i++)
        view.setUint16(2 * i + (mark ? 2 : 0), source.charCodeAt(i), !big);
      return raw;
    };
    for (const mark of [true, false]) for (const big of [true, false]) same(wide(mark, big));
  });
});

describe('order of rows', () => {
  it('newest first is read from the end', () => {
    const back = [...ROWS].reverse();
    for (const raw of [
      csv('time_s,voltage_V,current_A', (row) => [row.timeS, ...plain(row)], back),
      csv(
        'time,voltage_V,current_A',
        (row) => [new Date(START + 1000 * row.timeS).toISOString(), ...plain(row)],
        back,
      ),
      csv('time,voltage_V,current_A', (row) => [clock(82_000 + row.timeS), ...plain(row)], back),
    ])
      expect(same(raw).findings.map(({ code }) => code)).toContain('newest-first');
  });
});

describe('several channels in one long table', () => {
  const other = ROWS.map((row) => ({ ...row, currentA: row.currentA * 0.9 }));
  const of = (channel: number, row: Row) => [channel, row.timeS, ...plain(row)].join(',');
  const HEAD = 'Channel,time_s,voltage_V,current_A';
  const interleaved = bytes(
    [HEAD, ...ROWS.flatMap((row, i) => [of(1, row), of(2, other[i]!)])].join('\n'),
  );
  const behind = bytes(
    [HEAD, ...ROWS.map((row) => of(1, row)), ...other.map((row) => of(2, row))].join('\n'),
  );

  it.each([
    ['side by side', interleaved],
    ['one behind the other', behind],
  ])('%s each becomes a log of its own', (_name, raw) => {
    const logs = channelsInLog(raw);
    expect(logs.map(({ channel }) => channel)).toEqual(['1', '2']);
    const [one, two] = logs.map((log) => ahOf(readLog(log.bytes)).value);
    expect(one! / TRUE_AH).toBeCloseTo(1, 3);
    expect(two! / TRUE_AH).toBeCloseTo(0.9, 3);
    expect(() => readLog(raw)).toThrow(/2 channels \(1, 2\)/);
  });
  it('a column of one channel alone is no reason to ask', () => {
    expect(channelsInLog(bytes([HEAD, ...ROWS.map((row) => of(3, row))].join('\n')))).toEqual([]);
    same(bytes([HEAD, ...ROWS.map((row) => of(3, row))].join('\n')));
  });
});

describe('a clock set back', () => {
  const stamped = (shift: (s: number) => number, from = START) =>
    csv('timestamp,voltage_V,current_A', (row) => {
      const at = new Date(from + 1000 * (row.timeS + shift(row.timeS)));
      return [at.toISOString().slice(0, 19).replace('T', ' '), ...plain(row)];
    });
  /** Half an hour before the clocks of central Europe, and of America, go back. */
  const AUTUMN = [Date.UTC(2026, 9, 25, 2, 30), Date.UTC(2026, 10, 1, 1, 30)];
  const SPRING = [Date.UTC(2026, 2, 29, 1, 30), Date.UTC(2026, 2, 8, 1, 30)];

  it('by the hour of autumn, on its day, is put right and told', () => {
    for (const from of AUTUMN) {
      const log = same(stamped((s) => (s >= 1800 ? -3600 : 0), from));
      expect(log.findings.map(({ code }) => code)).toEqual(['summer-time']);
    }
  });
  it('forward by the hour of spring likewise', () => {
    for (const from of SPRING) {
      const log = same(stamped((s) => (s >= 1800 ? 3600 : 0), from));
      expect(log.findings.map(({ code }) => code)).toEqual(['summer-time']);
    }
  });
  it('an hour on another day, or by 600 s, goes on in file order and is held', () => {
    for (const back of [3600, 600, 90, 40]) {
      const log = same(stamped((s) => (s >= 1800 ? -back : 0)));
      expect(log.findings.map(({ code }) => code)).toEqual(['clock-set-back']);
    }
    const seconds = csv('time_s,voltage_V,current_A', (row) => [
      row.timeS >= 3000 ? row.timeS - 600 : row.timeS,
      ...plain(row),
    ]);
    expect(same(seconds).findings.map(({ code }) => code)).toContain('clock-set-back');
  });
  it('wherever a long log is cut into pieces', () => {
    const raw = stamped((s) => (s >= 1800 ? -3600 : 0), AUTUMN[0]);
    for (const pieceBytes of [400, 1500, 2347, 5000]) {
      const { log } = readLongLog(memorySource(raw), { pieceBytes, keptBack: 16, cutoffsV: [3] });
      expect(ahOf(log).value / TRUE_AH).toBeCloseTo(1, 3);
    }
  });
});
