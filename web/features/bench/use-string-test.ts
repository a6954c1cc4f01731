'use client';

import type { StringTestView } from '@dusk-tally/lab/bench';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { usePerson } from '@/kit/person';
import { useAct } from '@/kit/use-act';
import { keep, readKept } from '@/lib/browser-store';
import { saveStringTestAct } from './bench-acts';
import { draftOf, FRESH_TEST, storedOf, type StringDraft } from './string-draft';

export interface StringLot {
  id: number;
  code: string;
  title: string;
  torqueNm: number | null;
}

const keyOf = (personId: number, id: number | null, runId: number | null) =>
  `dusk-load-test:${personId}:${id ?? (runId === null ? 'new' : `log-${runId}`)}`;

/** What a load test is of. */
export interface TestProps {
  lots: readonly StringLot[];
  /** Null for a new one. */
  view: StringTestView | null;
  logged: StringTestView['logged'];
  runId: number | null;
  lotId: number | null;
}

/** A load test as it is typed, kept in the browser until it is stored. */
export function useStringTest({ lots, view, runId, lotId }: TestProps) {
  const router = useRouter();
  const { run, busy, problem, setProblem } = useAct();
  const key = keyOf(usePerson().id, view?.row.id ?? null, runId);
  const [draft, setDraft] = useState<StringDraft>(
    () => (readKept(key) as StringDraft | null) ?? (view ? draftOf(view) : FRESH_TEST),
  );
  const [lot, setLot] = useState(view?.lot.id ?? lotId ?? lots[0]?.id ?? 0);
  const keepDraft = (next: StringDraft) => {
    setDraft(next);
    keep(key, next);
  };
  const save = () => {
    let stored: ReturnType<typeof storedOf>;
    try {
      stored = storedOf(draft);
    } catch (error) {
      setProblem((error as Error).message);
      return;
    }
    run(
      (key) =>
        saveStringTestAct(
          {
            ...stored,
            id: view?.row.id,
            version: view?.row.version,
            runId,
            lotId: lot,
          },
          key,
        ),
      ({ id }) => {
        keep(key, null);
        if (!view) router.push(`/bench/load-test/${id}`);
      },
    );
  };
  const begin = () => {
    keep(key, null);
    setDraft(view ? draftOf(view) : FRESH_TEST);
  };
  return { draft, keep: keepDraft, lot, setLot, save, begin, busy, problem };
}

/** A load test under way. */
export type Test = ReturnType<typeof useStringTest>;

/** Fields of a draft by name. */
export const fieldsOf = ({ draft, keep }: Pick<Test, 'draft' | 'keep'>) => ({
  set: (name: Exclude<keyof StringDraft, 'steps'>) => ({
    value: draft[name],
    onChange: (event: { target: { value: string } }) =>
      keep({ ...draft, [name]: event.target.value }),
  }),
  number: (name: Exclude<keyof StringDraft, 'steps'>) => ({
    text: draft[name],
    onText: (text: string) => keep({ ...draft, [name]: text }),
  }),
});
