'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { orOffline } from '@/lib/or-offline';
import { useKeptDraft } from '@/lib/use-kept-draft';
import { takeInLotAct } from './acts';
import {
  emptyLot,
  fieldOfRefusal,
  type LotContext,
  type LotDraft,
  type LotProblems,
  readLot,
} from './lot-draft';

/** An answer that takes longer is taken for lost; the same try may be sent again, ms. */
const PATIENCE_MS = 20_000;

/** A lot being taken in: what is typed and kept, what is wrong with it, and the act. */
export function useTakeIn(context: LotContext) {
  const router = useRouter();
  // Not a transition: one that waits for a lost answer would keep the button busy for good.
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const [problems, setProblems] = useState<LotProblems>({});
  const [lot, keep, forget] = useKeptDraft('lot', emptyLot(context.models.length > 0));
  const change = (patch: Partial<LotDraft>) => keep({ ...patch, clientKey: '' });
  const refuse = (wrong: LotProblems, form: HTMLFormElement) => {
    setProblems(wrong);
    // The first wrong field has the focus once it is marked.
    setTimeout(() => form.querySelector<HTMLElement>('[aria-invalid="true"]')?.focus(), 0);
  };
  const submit = async (form: HTMLFormElement) => {
    // The same try keeps its key: a lost answer does not make a second lot.
    const clientKey = lot.clientKey || crypto.randomUUID();
    const read = readLot(lot, context, clientKey);
    setProblem(null);
    if ('problems' in read) return refuse(read.problems, form);
    setProblems({});
    keep({ clientKey });
    setBusy(true);
    try {
      const outcome = await orOffline(() => takeInLotAct(read.input), PATIENCE_MS);
      if (outcome.ok) {
        forget();
        return router.push(`/lots/${outcome.data.code}/arrival/box`);
      }
      const field = fieldOfRefusal(outcome.field);
      if (field) refuse({ [field]: outcome.message }, form);
      else setProblem(outcome.message);
    } catch {
      setProblem(
        'No connection: the lot is not taken in yet. What you typed is kept; press again when the connection is back.',
      );
    } finally {
      setBusy(false);
    }
  };
  return { lot, change, busy, problem, problems, submit };
}
