'use client';

import {
  type HandPoint,
  type HandSetting,
  newDoubts,
  type PointField,
} from '@dusk-tally/core/evidence';
import { useEffect, useState } from 'react';
import { useLabTimeZone } from '@/kit/lab-time';
import { useCalmRefresh } from '@/lib/use-calm-refresh';
import { useKeptDraft } from '@/lib/use-kept-draft';
import { useSendQueue } from '@/lib/use-send-queue';
import { draftOf, type PointDraft, pointOf } from './point-draft';

/** A log points are typed for, with what a new one is asked about by. */
export interface PointTaker {
  benchRunId: number;
  loadOnAt: string;
  setting: HandSetting;
  points: readonly HandPoint[];
}

interface HeldPoint {
  clientKey: string;
  benchRunId: number;
  at: string;
  values: HandPoint['values'];
  decimals: HandPoint['decimals'];
  isStop: boolean;
  keptDespite: string | null;
}

/** What is said of a draft: a question, or what is wrong with a field. */
export interface PointNote {
  text: string;
  isQuestion: boolean;
  isDanger: boolean;
  field: PointField | 'at' | null;
  /** The field a question was asked from: only there Enter answers it. */
  askedIn?: PointField | 'at';
  /** When it was read: an answer later is of then. */
  readAt: string;
}

type ByRun<T> = Readonly<Record<number, T>>;

/** What is typed and not taken yet, and what is said of it. */
const NONE: { drafts: ByRun<PointDraft>; notes: ByRun<PointNote> } = { drafts: {}, notes: {} };

const without = <T>(all: ByRun<T>, run: number): ByRun<T> =>
  Object.fromEntries(Object.entries(all).filter(([id]) => Number(id) !== run));

/** Points of hand logs: typed, asked about where they do not fit, sent, held without a connection. */
export function useHandPoints() {
  const refresh = useCalmRefresh();
  const timeZone = useLabTimeZone();
  const [{ drafts, notes }, setOpen] = useKeptDraft('hand points', NONE);
  /** Sent from here and not on the page yet: the next one is asked about by them, too. */
  const [sent, setSent] = useState<ByRun<HandPoint[]>>({});
  const note = (run: number, said: PointNote) => setOpen({ notes: { ...notes, [run]: said } });
  const { state, push, restore } = useSendQueue<HeldPoint>({
    what: 'hand points',
    url: '/api/bench/hand-points',
    pack: (pending) => {
      const { benchRunId } = pending[0]!;
      const batch = pending.filter((one) => one.benchRunId === benchRunId).slice(0, 50);
      return {
        batch,
        body: { benchRunId, points: batch.map(({ benchRunId: _, ...point }) => point) },
      };
    },
    onReply: ([first]) => {
      refresh();
      if (first) setSent(({ [first.benchRunId]: _, ...rest }) => rest);
    },
    onRefused: ({ benchRunId, values, decimals, at }, message) => {
      // What was read stands in its fields again: nothing has to be read twice.
      setOpen({
        drafts: {
          ...drafts,
          [benchRunId]: { ...draftOf(values, decimals), ...drafts[benchRunId] },
        },
        notes: {
          ...notes,
          [benchRunId]: {
            text: message,
            isQuestion: false,
            isDanger: false,
            field: null,
            readAt: at,
          },
        },
      });
      setSent(({ [benchRunId]: _, ...rest }) => rest);
    },
  });
  useEffect(() => {
    restore();
  }, [restore]);

  /**
   * Takes what is typed for a log. @returns whether it was taken.
   * @param by the field it is taken from, or the button that answers what is asked.
   */
  const take = (log: PointTaker, by: PointField | 'at' | 'answer', isStop = false): boolean => {
    const { benchRunId, loadOnAt, setting } = log;
    const asked = notes[benchRunId];
    const readAt = asked?.readAt ?? new Date().toISOString();
    const read = pointOf(drafts[benchRunId] ?? {}, {
      now: new Date(readAt),
      loadOnAt: new Date(loadOnAt),
      timeZone,
      isStop,
    });
    if (!read.ok) {
      note(benchRunId, {
        text: read.message,
        isQuestion: false,
        isDanger: false,
        field: read.field,
        readAt,
      });
      return false;
    }
    const known = [...log.points, ...(sent[benchRunId] ?? [])].toSorted((a, b) => a.atS - b.atS);
    const doubts = newDoubts(read.point, known, setting);
    const text = doubts.map((doubt) => doubt.text).join(' ');
    const isAnswer =
      asked?.isQuestion && asked.text === text && (by === 'answer' || by === asked.askedIn);
    if (text !== '' && !isAnswer) {
      const isDanger = doubts.some((doubt) => doubt.isDanger);
      const askedIn = by === 'answer' ? {} : { askedIn: asked?.askedIn ?? by };
      note(benchRunId, { text, isQuestion: true, isDanger, field: null, readAt, ...askedIn });
      return false;
    }
    setOpen({ drafts: without(drafts, benchRunId), notes: without(notes, benchRunId) });
    setSent({ ...sent, [benchRunId]: [...(sent[benchRunId] ?? []), read.point] });
    const { values, decimals } = read.point;
    push([
      {
        clientKey: crypto.randomUUID(),
        benchRunId,
        at: read.at.toISOString(),
        values,
        decimals,
        isStop,
        keptDespite: text === '' ? null : text.slice(0, 400),
      },
    ]);
    return true;
  };
  const type = (benchRunId: number, field: PointField | 'at', text: string) => {
    setOpen({
      drafts: { ...drafts, [benchRunId]: { ...drafts[benchRunId], [field]: text } },
      notes: without(notes, benchRunId),
    });
  };
  return { drafts, notes, sent, state, take, type };
}

export type HandPoints = ReturnType<typeof useHandPoints>;
