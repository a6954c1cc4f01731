import type { ChannelState } from '@dusk-tally/lab/evidence';
import type { DueKind, PressingDue } from '@dusk-tally/lab/today';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { PackCandidate } from '@dusk-tally/core/arrivals';
import { arrivalWords } from '@/features/arrivals/arrival-words';
import { isAsClaimed, ranked } from '@/features/arrivals/pack-ranking';
import { worstFirst } from '@/features/evidence/channels/channel-order';
import { placeOf } from '@/features/frame/came-from';
import { shortcutsOf } from '@/features/frame/shortcut-list';
import { firstSteps, nextStep } from '@/features/today/first-steps-list';
import { gatheredDue, LAB_PLACE } from '@/features/today/gathered-due';

const NOW = new Date('2026-03-02T09:00:00Z');
const HOUR = 3_600_000;

const due = (kind: DueKind, more: Partial<PressingDue> = {}): PressingDue => ({
  key: `${kind} ${more.at?.toISOString() ?? ''} ${more.lot?.code ?? ''}`,
  stage: 'arrivals',
  kind,
  urgency: 'canWait',
  presses: 'canWait',
  lot: null,
  count: 1,
  of: 1,
  note: null,
  at: null,
  until: null,
  path: '/',
  ...more,
});
const ofLot = (code: string) => ({ lot: { code, title: `Lot ${code}` } });
const connect = (inHours: number) =>
  due('connect', { stage: 'bench', at: new Date(NOW.getTime() + inHours * HOUR), note: 'Connect' });

describe('what is due, gathered', () => {
  it('what is of no lot comes first, then lot by lot in the order of their first item', () => {
    const places = gatheredDue(
      [
        due('blocked', ofLot('L-002')),
        due('calibrationDue', { stage: 'evidence' }),
        due('arrival', ofLot('L-001')),
        due('ready', ofLot('L-002')),
      ],
      NOW,
    );
    expect(places.map(({ place, items }) => [place, items.length])).toEqual([
      [LAB_PLACE, 1],
      ['L-002', 2],
      ['L-001', 1],
    ]);
  });

  it('two cells to connect are two things, three are one, with the first moment', () => {
    expect(gatheredDue([connect(2), connect(1)], NOW)[0]!.items).toHaveLength(2);
    const [together] = gatheredDue([connect(3), connect(1), connect(2)], NOW)[0]!.items;
    expect(together).toMatchObject({ count: 3, at: new Date(NOW.getTime() + HOUR) });
    expect(together!.note).toBe('3 cells are to be connected, the first');
  });

  it('the bench of tomorrow is not shown today; what is overdue is', () => {
    expect(gatheredDue([connect(13)], NOW)).toEqual([]);
    expect(gatheredDue([connect(-30)], NOW)).toHaveLength(1);
    const look = due('look', { stage: 'bench', at: new Date(NOW.getTime() + 20 * HOUR) });
    expect(gatheredDue([look], NOW)).toEqual([]);
  });

  it('nothing of a lot is lost', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom('L-1', 'L-2', 'L-3'), fc.constantFrom('held', 'short'))),
        (rows) => {
          const items = rows.map(([code, kind]) => due(kind as DueKind, ofLot(code)));
          const shown = gatheredDue(items, NOW).flatMap((place) => place.items);
          expect(new Set(shown)).toEqual(new Set(items));
        },
      ),
    );
  });
});

describe('where a page is marked', () => {
  it('a cell stays under the place one came from', () => {
    expect(placeOf('/cells/B-0001', '/arrivals', '/verdicts')).toBe('/verdicts');
    expect(placeOf('/runs/12', null, '/bench')).toBe('/bench');
    expect(placeOf('/lots/L-001/cells', '/arrivals', '/verdicts')).toBe('/verdicts');
  });
  it('one who came from nowhere finds it under its own', () => {
    expect(placeOf('/cells/B-0001', '/arrivals', null)).toBe('/arrivals');
  });
  it('a page of one place is marked there, wherever one came from', () => {
    expect(placeOf('/lots/L-001/verdict', '/verdicts', '/arrivals')).toBe('/verdicts');
    expect(placeOf('/suppliers', '/suppliers', '/verdicts')).toBe('/suppliers');
  });
});

describe('shortcuts', () => {
  it('every page names at least those that hold everywhere', () => {
    expect(shortcutsOf('/lab').map(([keys]) => keys)).toEqual(['Ctrl K or /', '?', 'Esc']);
  });
  it.each([
    ['/lots/L-001/cells', 'choose the row'],
    ['/lots/L-001/verdict', 'next stroke'],
    ['/lots/L-001/readings', 'take the last entry back'],
    ['/lots/L-001/arrival/inspection', 'all others are clear'],
    ['/arrivals', 'open the row'],
  ])('%s names its own first', (path, what) => {
    const words = shortcutsOf(path).map(([, text]) => text);
    expect(words.slice(0, -3).join()).toContain(what);
  });
});

describe('channels, the worst first', () => {
  const channel = (title: string, more: object = {}): ChannelState =>
    ({ title, held: null, calibration: 'valid', effect: null, runs: 0, ...more }) as ChannelState;
  const effect = (shrunk: number, corrects = false) => ({ effect: { shrunk, corrects } });
  it('held, then out of calibration, then reading wrong, then compared, then unknown', () => {
    const list = [
      channel('unknown'),
      channel('agrees', effect(0.001)),
      channel('soon', { calibration: 'dueSoon' }),
      channel('high', effect(0.03, true)),
      channel('overdue', { calibration: 'overdue' }),
      channel('held', { held: { reason: 'x', afterRunId: 1 } }),
    ];
    expect(worstFirst(list).map(({ title }) => title)).toEqual(
      [...list].reverse().map((c) => c.title),
    );
  });
  it('of as bad, the one further off; else by number', () => {
    const list = [
      channel('2'),
      channel('10'),
      channel('near', effect(0.001)),
      channel('far', effect(-0.002)),
    ];
    expect(worstFirst(list).map(({ title }) => title)).toEqual(['far', 'near', '2', '10']);
  });
});

describe('a lot’s arrival in few words', () => {
  const steps = (open: string[]) =>
    ['box', 'codes', 'inspection', 'readings', 'triage'].map((step) => ({
      step,
      state: open.includes(step) ? 'open' : 'done',
      words: '',
    }));
  const words = (open: string[], gates: { gate: string; count: number }[]) =>
    arrivalWords({ steps: steps(open), gates } as never);
  it('says what comes next, or that all is done', () => {
    expect(words(['codes', 'triage'], []).steps).toBe('next: codes');
    expect(words([], []).steps).toBe('complete');
  });
  it('the worst gate first, nothing that holds nobody up', () => {
    const { heldUp, whole } = words(
      ['triage'],
      [
        { gate: 'ready', count: 60 },
        { gate: 'blocked', count: 4 },
        { gate: 'recovering', count: 0 },
        { gate: 'quarantined', count: 1 },
      ],
    );
    expect(heldUp.map((row) => row.words)).toEqual(['1 in quarantine', '4 to be made good']);
    expect(whole).toBe('1 in quarantine; 4 to be made good; open: triage');
  });
});

describe('the first steps of an empty lab', () => {
  const empty = { isNamed: false, instruments: 0, lots: 0 };
  it('lead an admin from the name to the first lot, a lead from the instruments on', () => {
    expect(firstSteps(empty, 'admin').map(({ key }) => key)).toEqual([
      'name',
      'instruments',
      'lot',
    ]);
    expect(firstSteps(empty, 'lead').map(({ key }) => key)).toEqual(['instruments', 'lot']);
  });
  it('what is done or left for later is passed over', () => {
    const steps = firstSteps({ ...empty, isNamed: true }, 'admin');
    expect(nextStep(steps, [])!.key).toBe('instruments');
    expect(nextStep(steps, ['instruments'])!.key).toBe('lot');
    expect(nextStep(steps, ['instruments', 'lot'])).toBeNull();
  });
});

describe('what a pack’s label can mean, in the order of what is likely', () => {
  const build = (chemistry: string, series: number, parallel: number, cellAh: number) =>
    ({ chemistry, series, parallel, cellAh }) as PackCandidate;
  const lot = { chemistry: 'NMC', claimedAh: 2.6 };
  const all = [
    build('LFP', 4, 2, 1.3),
    ...[1, 2, 3, 4, 5, 6].map((parallel) => build('NMC', 4, parallel, 10.4 / parallel)),
  ];
  it('the cell as claimed first, few of each build, all when asked', () => {
    const few = ranked(all, lot, false);
    expect(few[0]).toMatchObject({ chemistry: 'NMC', parallel: 4 });
    expect(few.filter(({ chemistry }) => chemistry === 'NMC')).toHaveLength(4);
    expect(ranked(all, lot, true)).toHaveLength(all.length);
  });
  it('as claimed is within five per cent, of the same chemistry', () => {
    expect(isAsClaimed(build('NMC', 4, 4, 2.7), lot)).toBe(true);
    expect(isAsClaimed(build('NMC', 4, 4, 2.8), lot)).toBe(false);
    expect(isAsClaimed(build('LFP', 4, 4, 2.6), lot)).toBe(false);
    expect(isAsClaimed(build('NMC', 4, 4, 2.6), { ...lot, claimedAh: null })).toBe(false);
  });
});
