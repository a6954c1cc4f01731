import type { HandPoint, HandSetting, PointField } from '@dusk-tally/core/evidence';
import { attendedForS } from '@dusk-tally/core/units';
import type { BenchRunRow } from '@dusk-tally/store';
import { z } from 'zod';
import { benchSettings } from '../../bench';
import { DUE, type DueItem, type Lab, question } from '../../shared';
import { type HandGround, handGround, pointsOf, settingBy } from './load';
import { dischargeOf, readingBy, saysOf } from './view';

/** One tester on the way of the round. */
export interface RoundStop {
  benchRunId: number;
  cell: string;
  label: string | null;
  lot: string;
  lotId: number;
  channel: string;
  /** Its load came on, and points count. */
  hasLog: boolean;
  /** When its next point is due; null where its discharge is not under way. */
  nextAt: string | null;
  isLate: boolean;
  /** Its tester was found stopped: its log is to be ended. */
  hasStopped: boolean;
  /** What to read next. */
  reads: PointField[];
  /** What is shown to a person who reads a point, and what a new one is asked about by. */
  points: HandPoint[];
  setting: HandSetting | null;
  loadOnAt: string | null;
  chargeAh: number | null;
  /** It ends between these, and somebody should be there from then on. */
  ends: { from: string; to: string; beThereAt: string } | null;
  /** It may end while nobody is there. */
  endsUnattended: boolean;
  /** What does not fit, what to do about the tester, what may be said already. */
  says: { tone: 'doubt' | 'act' | 'known'; text: string }[];
  isDanger: boolean;
}

/** A point this much overdue is late, ms. */
const LATE_MS = 10 * 60_000;

async function stopOf(
  lab: Lab,
  run: BenchRunRow,
  by: Awaited<ReturnType<typeof readingBy>>,
  ground: HandGround,
  isAttended: (at: Date) => boolean,
): Promise<Omit<RoundStop, 'cell' | 'label' | 'lot' | 'channel'>> {
  const { hand } = lab.store;
  const log = await hand.logs.one({ benchRunId: run.id });
  const base = {
    benchRunId: run.id,
    lotId: run.lotId,
    hasLog: log !== null,
    points: [],
    setting: null,
    loadOnAt: log?.loadOnAt.toISOString() ?? null,
  };
  if (!log)
    return {
      ...base,
      nextAt: null,
      isLate: false,
      hasStopped: false,
      reads: [],
      chargeAh: null,
      ends: null,
      endsUnattended: false,
      says: [],
      isDanger: false,
    };
  const setting = settingBy(ground, by.claimCutoffV, run, log);
  const points = pointsOf(log, await hand.points.find({ handLogId: log.id }));
  const said = saysOf(points, setting, { ...by, setA: log.setA ?? dischargeOf(run).setA });
  const { forecast } = said;
  const at = (seconds: number) => new Date(log.loadOnAt.getTime() + seconds * 1000);
  const nextAt = forecast ? at(forecast.nextS) : null;
  return {
    ...base,
    points,
    setting,
    nextAt: nextAt?.toISOString() ?? null,
    isLate: nextAt !== null && lab.now().getTime() > nextAt.getTime() + LATE_MS,
    hasStopped: points.at(-1)?.isStop === true,
    reads:
      said.lead.from === 'points' || said.lead.from === 'fourWire'
        ? ['shownV', 'shownAh']
        : ['shownV', 'shownA', 'shownAh', 'cellV'],
    chargeAh: said.soFar.ah,
    ends: forecast && {
      from: at(forecast.endS.low).toISOString(),
      to: at(forecast.endS.high).toISOString(),
      beThereAt: at(forecast.beThereS).toISOString(),
    },
    endsUnattended:
      forecast !== null &&
      !(isAttended(at(forecast.endS.low)) && isAttended(at(forecast.endS.high))),
    says: [
      ...said.doubts.map(({ text }) => ({ tone: 'doubt' as const, text })),
      ...(said.advice ? [{ tone: 'act' as const, text: said.advice }] : []),
      ...(said.enough.kind === 'open' ? [] : [{ tone: 'known' as const, text: said.enough.text }]),
    ],
    isDanger: said.doubts.some(({ isDanger }) => isDanger),
  };
}

/** All testers read by hand, in the order of the bench: what to read next, and which is late. */
export async function roundOf(lab: Lab): Promise<RoundStop[]> {
  const { store } = lab;
  const runs = await store.bench.runs.find({ driven: false, state: ['ready', 'running'] });
  if (runs.length === 0) return [];
  const [ground, settings, cells, lots] = await Promise.all([
    handGround(lab),
    benchSettings(lab),
    store.cells.find(
      { id: runs.map(({ cellId }) => cellId) },
      { columns: ['id', 'number', 'label'] },
    ),
    store.lots.find({ id: [...new Set(runs.map(({ lotId }) => lotId))] }),
  ]);
  const { channels, timeZone } = ground;
  const cellOf = new Map(cells.map((cell) => [cell.id, cell]));
  const lotOf = new Map(lots.map((lot) => [lot.id, lot]));
  const place = new Map(channels.map(({ id }, i) => [id, i]));
  const by = new Map(
    await Promise.all(lots.map(async ({ id }) => [id, await readingBy(lab, id, null)] as const)),
  );
  const isAttended = (at: Date) => attendedForS(settings, timeZone, at) > 0;
  const stops: (RoundStop & { place: number })[] = [];
  for (const run of runs) {
    const lot = lotOf.get(run.lotId);
    const cell = cellOf.get(run.cellId);
    if (!lot || lot.cancelledAt !== null || !cell) continue;
    stops.push({
      ...(await stopOf(lab, run, by.get(run.lotId)!, ground, isAttended)),
      cell: cell.number,
      label: cell.label,
      lot: lot.code,
      channel: channels.find(({ id }) => id === run.channelId)?.title ?? 'no channel',
      place: place.get(run.channelId ?? -1) ?? Number.MAX_SAFE_INTEGER,
    });
  }
  return stops
    .sort((a, b) => a.place - b.place || a.benchRunId - b.benchRunId)
    .map(({ place: _place, ...stop }) => stop);
}

/** The round: every tester that only shows a number, in walking order. */
export const handRound = question({
  role: 'technician',
  input: z.object({}),
  run: async (lab): Promise<{ stops: RoundStop[]; now: string }> => ({
    stops: await roundOf(lab),
    now: lab.now().toISOString(),
  }),
});

export type HandDue = 'point' | 'beThere' | 'stopped';

/** Points of hand logs as they come due, and when to be there for an end. */
export async function dueHandLogs(lab: Lab): Promise<DueItem<HandDue>[]> {
  return (await roundOf(lab)).flatMap((stop): DueItem<HandDue>[] => {
    if (stop.hasStopped)
      return [
        {
          ...DUE,
          key: `stopped ${stop.benchRunId}`,
          stage: 'bench',
          kind: 'stopped',
          urgency: 'now',
          note: `${stop.channel} has stopped with ${stop.cell}: end its log, and charge the cell to storage`,
          path: `/bench/runs/${stop.benchRunId}`,
        },
      ];
    if (stop.nextAt === null) return [];
    const next = new Date(stop.nextAt);
    return [
      {
        ...DUE,
        key: `point ${stop.benchRunId} ${stop.points.length}`,
        stage: 'bench',
        kind: 'point',
        urgency: stop.isDanger ? 'danger' : next <= lab.now() ? 'now' : 'canWait',
        note: stop.isDanger ? stop.says[0]!.text : `Read ${stop.channel} with ${stop.cell}`,
        at: next,
        path: '/bench/round',
      },
      ...(stop.ends
        ? [
            {
              ...DUE,
              key: `end ${stop.benchRunId}`,
              stage: 'bench' as const,
              kind: 'beThere' as const,
              urgency: 'canWait' as const,
              note: `Be at ${stop.channel}: ${stop.cell} comes to its end${stop.endsUnattended ? ', and may while nobody is there' : ''}`,
              at: new Date(stop.ends.beThereAt),
              until: new Date(stop.ends.to),
              path: `/bench/runs/${stop.benchRunId}`,
            },
          ]
        : []),
    ];
  });
}
