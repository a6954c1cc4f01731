import { describe, expect, it } from 'vitest';
import { draftOf, momentOfTime, pointOf } from '@/features/bench/hand-log/point-draft';

const ON = {
  now: new Date('2026-11-28T10:00:00Z'),
  loadOnAt: new Date('2026-11-28T08:00:00Z'),
  timeZone: 'Europe/Berlin',
  isStop: false,
};

describe('a point as it is typed', () => {
  it('with units, decimal commas and the digits that were meant', () => {
    const read = pointOf(
      { shownV: '3,21', shownAh: '41600 mAh', cellV: '3310 mV', shownS: '2:00' },
      ON,
    );
    if (!read.ok) throw new Error(read.message);
    expect(read.point).toMatchObject({
      atS: 7200,
      values: { shownV: 3.21, shownAh: 41.6, cellV: 3.31, shownS: 7200 },
      decimals: { shownV: 2, shownAh: 3, cellV: 3 },
    });
  });

  it('at a time of the lab’s clock: today, or yesterday where that is still to come', () => {
    const at = (text: string) => momentOfTime(text, ON.now, ON.timeZone)?.toISOString() ?? null;
    expect(at('10:30')).toBe('2026-11-28T09:30:00.000Z');
    expect(at('9.05')).toBe('2026-11-28T08:05:00.000Z');
    expect(at('23:50')).toBe('2026-11-27T22:50:00.000Z');
    expect(at('24:10')).toBeNull();
    expect(at('noon')).toBeNull();
  });

  it('says which field is wrong and what was expected', () => {
    const wrong = (draft: object) => {
      const read = pointOf(draft, ON);
      return read.ok ? null : [read.field, read.message];
    };
    expect(wrong({})).toEqual(['shownV', 'Type what the tester shows.']);
    expect(wrong({ shownV: 'three' })![0]).toBe('shownV');
    expect(wrong({ cellV: '33' })).toEqual(['cellV', 'At the cell: expected 0 to 10 V.']);
    expect(wrong({ shownS: '4 h' })![1]).toContain('4:38');
    expect(wrong({ shownV: '3.2', at: '25:00' })![0]).toBe('at');
    expect(wrong({ shownV: '3.2', at: '08:30' })).toEqual([
      'at',
      'Expected a time after the load came on.',
    ]);
  });

  it('stands in its fields again as it was read, where it was refused', () => {
    const values = { shownV: 3.2, shownAh: 41.6, shownS: 16_680 };
    const draft = draftOf(values, { shownV: 2, shownAh: 1 });
    expect(draft).toEqual({ shownV: '3.20', shownAh: '41.6', shownS: '4:38' });
    const read = pointOf(draft, { ...ON, loadOnAt: new Date('2026-11-28T05:22:00Z') });
    expect(read.ok && read.point.values).toEqual(values);
  });
});
