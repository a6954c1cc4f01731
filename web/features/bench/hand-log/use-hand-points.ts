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
}

type ByRun<T> = Readonly<Record<number, T>>;

/** Points of hand logs: typed, asked about where they do not fit, sent, held without a connection. */
export function useHandPoints() {
  const refresh = useCalmRefresh();
  const timeZone = useLabTimeZone();
  const [drafts, setDrafts] = useState<ByRun<PointDraft>>({});
  const [notes, setNotes] = useState<ByRun<PointNote>>({});
  /** Sent from here and not on the page yet: the next one is asked about by them, too. */
  const [sent, setSent] = useState<ByRun<HandPoint[]>>({});
  const note = (run: number, said: PointNote | null) =>
    setNotes(({ [run]: _, ...rest }) => (said ? { ...rest, [run]: said } : rest));
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
    onRefused: ({ benchRunId, values, decimals }, message) => {
      note(benchRunId, { text: message, isQuestion: false, isDanger: false, field: null });
      // What was read stands in its fields again: nothing has to be read twice.
      setDrafts((all) => ({
        ...all,
        [benchRunId]: { ...draftOf(values, decimals), ...all[benchRunId] },
      }));
      setSent(({ [benchRunId]: _, ...rest }) => rest);
    },
  });
  useEffect(() => {
    restore();
  }, [restore]);

  /** Takes what is typed for a log. @returns whether it was taken. */
  const take = (log: PointTaker, isStop = false): boolean => {
    const { benchRunId, loadOnAt, setting } = log;
    const read = pointOf(drafts[benchRunId] ?? {}, {
      now: new Date(),
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
      });
      return false;
    }
    const known = [...log.points, ...(sent[benchRunId] ?? [])].toSorted((a, b) => a.atS - b.atS);
    const doubts = newDoubts(read.point, known, setting);
    const text = doubts.map((doubt) => doubt.text).join(' ');
    const asked = notes[benchRunId];
    if (text !== '' && !(asked?.isQuestion && asked.text === text)) {
      const isDanger = doubts.some((doubt) => doubt.isDanger);
      note(benchRunId, { text, isQuestion: true, isDanger, field: null });
      return false;
    }
    note(benchRunId, null);
    setDrafts(({ [benchRunId]: _, ...rest }) => rest);
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
    setDrafts({ ...drafts, [benchRunId]: { ...drafts[benchRunId], [field]: text } });
    if (notes[benchRunId]) note(benchRunId, null);
  };
  return { drafts, notes, sent, state, take, type };
}

export type HandPoints = ReturnType<typeof useHandPoints>;
