import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { aheadMs, attendedForS, attendedSpans, dayIn, momentIn, trapezoid } from '../src/units';

const HOURS = {
  attendedFromMin: 480,
  attendedToMin: 1080,
  attendedDays: [1, 2, 3, 4, 5, 6, 7],
};
const ZONES = ['UTC', 'Europe/Vienna', 'America/New_York', 'Asia/Kolkata', 'Pacific/Auckland'];

/** A clock that says how far it is ahead: GMT+05:30. */
const offsetClock = (timeZone: string) =>
  new Intl.DateTimeFormat('en-GB', { timeZone, timeZoneName: 'longOffset', year: 'numeric' });
const offsetText = (clock: Intl.DateTimeFormat, atMs: number) =>
  clock.format(atMs).split(', ').at(-1)!;

/** How far a zone says it is ahead, ms. */
function saidAheadMs(zone: string, atMs: number): number {
  const text = offsetText(offsetClock(zone), atMs);
  const [, sign, hours, minutes, seconds] = /GMT(?:([+-])(\d\d):(\d\d)(?::(\d\d))?)?/.exec(text)!;
  const size = Number(hours ?? 0) * 3600 + Number(minutes ?? 0) * 60 + Number(seconds ?? 0);
  return (sign === '-' ? -1 : 1) * size * 1000 + 0;
}

describe('the lab’s own clock', () => {
  it('knows how far a zone is ahead, summer and winter', () => {
    expect(aheadMs('Europe/Vienna', new Date('2026-07-01T00:00:00Z'))).toBe(7_200_000);
    expect(aheadMs('Europe/Vienna', new Date('2026-01-01T00:00:00Z'))).toBe(3_600_000);
    expect(aheadMs('America/New_York', new Date('2026-01-01T00:00:00Z'))).toBe(-18_000_000);
    expect(() => aheadMs('Nowhere/Land', new Date(0))).toThrow(RangeError);
  });
  it('every zone of the world is as far ahead as its own clock says, asked in any order', () => {
    const world = Intl.supportedValuesOf('timeZone');
    const since = Date.UTC(1985, 0, 1) / 1000;
    fc.assert(
      fc.property(
        fc.constantFrom(...world),
        fc.integer({ min: since, max: since + 55 * 365 * 86_400 }),
        fc.array(fc.integer({ min: -120, max: 120 }), { minLength: 1, maxLength: 4 }),
        (zone, atS, besideS) => {
          for (const s of [0, ...besideS])
            expect(aheadMs(zone, new Date(1000 * (atS + s)))).toBe(
              saidAheadMs(zone, 1000 * (atS + s)),
            );
        },
      ),
      { numRuns: 500 },
    );
  });
  it('clocks are changed at whole minutes, by which what they say is remembered', () => {
    const DAY_MS = 86_400_000;
    const [from, until] = [Date.UTC(1990, 0, 1), Date.UTC(2038, 0, 1)];
    let changes = 0;
    for (const zone of Intl.supportedValuesOf('timeZone')) {
      const clock = offsetClock(zone);
      let before = offsetText(clock, from);
      for (let atMs = from; atMs < until; atMs += 21 * DAY_MS) {
        const after = offsetText(clock, atMs + 21 * DAY_MS);
        if (after === before) continue;
        let [low, high] = [atMs, atMs + 21 * DAY_MS];
        while (high - low > 1000) {
          const middle = Math.floor((low + high) / 2000) * 1000;
          if (offsetText(clock, middle) === before) low = middle;
          else high = middle;
        }
        expect(high % 60_000, `${zone} ${new Date(high).toISOString()}`).toBe(0);
        changes++;
        before = after;
      }
    }
    expect(changes).toBeGreaterThan(10_000);
  });
  it('names the lab’s day, not that of UTC', () => {
    expect(dayIn('Europe/Vienna', new Date('2026-07-01T21:59:59Z'))).toBe('2026-07-01');
    expect(dayIn('Europe/Vienna', new Date('2026-07-01T22:00:00Z'))).toBe('2026-07-02');
    expect(dayIn('America/New_York', new Date('2026-07-02T03:00:00Z'))).toBe('2026-07-01');
  });
  it('a minute of a day is that minute on the lab’s clock, in every zone', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...ZONES),
        fc.integer({ min: 0, max: 3650 }),
        fc.integer({ min: 240, max: 1439 }),
        (zone, after, minutes) => {
          const day = new Date(Date.UTC(2024, 0, 1 + after)).toISOString().slice(0, 10);
          const at = new Date(momentIn(zone, day, minutes));
          const clock = new Intl.DateTimeFormat('en-GB', {
            timeZone: zone,
            hourCycle: 'h23',
            hour: '2-digit',
            minute: '2-digit',
          }).format(at);
          const [hour, minute] = clock.split(':').map(Number);
          expect(hour! * 60 + minute!).toBe(minutes);
          expect(dayIn(zone, at)).toBe(day);
        },
      ),
    );
  });
});

describe('attended hours', () => {
  it('follow the lab’s clock across its change', () => {
    const now = new Date('2026-03-28T12:00:00Z');
    const spans = attendedSpans(HOURS, 'Europe/Vienna', now, 3);
    const at = (s: number) => new Date(now.getTime() + s * 1000).toISOString();
    expect(spans.map(({ fromS, toS }) => [at(fromS), at(toS)])).toEqual([
      ['2026-03-28T12:00:00.000Z', '2026-03-28T17:00:00.000Z'],
      ['2026-03-29T06:00:00.000Z', '2026-03-29T16:00:00.000Z'],
      ['2026-03-30T06:00:00.000Z', '2026-03-30T16:00:00.000Z'],
    ]);
  });
  it('are counted without a break from now on, nights and free days left out', () => {
    const week = { ...HOURS, attendedDays: [1, 2, 3, 4, 5] };
    // A Friday.
    const at = (time: string) => attendedForS(week, 'UTC', new Date(`2026-11-27T${time}:00Z`));
    expect(at('16:30')).toBe(1.5 * 3600);
    expect(at('07:59')).toBe(0);
    expect(at('18:00')).toBe(0);
    expect(attendedForS(week, 'UTC', new Date('2026-11-28T12:00:00Z'))).toBe(0);
  });
  it.each([1440, 1439])('of a lab that never closes are one stretch, until %d', (attendedToMin) => {
    const always = { attendedFromMin: 0, attendedToMin, attendedDays: [1, 2, 3, 4, 5, 6, 7] };
    const spans = attendedSpans(always, 'Europe/Vienna', new Date('2026-03-27T12:00:00Z'), 10);
    expect(spans).toHaveLength(1);
    expect(spans[0]!.toS).toBeGreaterThan(9 * 86_400);
  });
});

describe('the trapezoid', () => {
  it('is the mean of two values times what lies between', () => {
    expect(trapezoid(20, 22, 0.5)).toBe(10.5);
    expect(trapezoid(-20.8, 20.8, 3)).toBe(0);
  });
  it('adds up over any cut of a straight line', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -200, max: 200, noNaN: true }),
        fc.double({ min: -50, max: 50, noNaN: true }),
        fc.double({ min: 0, max: 10, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (from, slope, width, share) => {
          const at = (x: number) => from + slope * x;
          const cut = share * width;
          expect(
            trapezoid(at(0), at(cut), cut) + trapezoid(at(cut), at(width), width - cut),
          ).toBeCloseTo(trapezoid(at(0), at(width), width), 6);
        },
      ),
    );
  });
});
