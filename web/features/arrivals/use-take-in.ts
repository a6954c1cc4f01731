'use client';

import { useRouter } from 'next/navigation';
import { useMemo } from 'react';
import { useLabForm } from '@/kit/form/use-lab-form';
import { takeInLotAct } from './acts';
import {
  emptyLot,
  fieldOfRefusal,
  type LotContext,
  type LotDraft,
  readLot,
  takeInForm,
  triedAs,
} from './lot-draft';

/** The same try may be sent again: it makes no second lot. */
const PATIENCE = {
  ms: 20_000,
  lost: 'No connection: the lot is not taken in yet. What you typed is kept; press again when the connection is back.',
};

/** A lot being taken in: what is typed and kept, what is wrong with it, and the act. */
export function useTakeIn(context: LotContext) {
  const router = useRouter();
  const hasModels = context.models.length > 0;
  const first = useMemo(() => emptyLot(hasModels), [hasModels]);
  const form = useLabForm({
    schema: takeInForm(context),
    first,
    act: async (lot: LotDraft, key) => {
      const tried = triedAs(lot, () => crypto.randomUUID());
      form.form.setValue('tried', tried);
      const read = readLot(lot, context, tried.key);
      if ('problems' in read)
        return { ok: false, code: 'invalid', message: Object.values(read.problems)[0]! };
      const outcome = await takeInLotAct(read.input, key);
      return outcome.ok
        ? outcome
        : { ...outcome, field: fieldOfRefusal(outcome.field) ?? undefined };
    },
    done: ({ code }) => router.push(`/lots/${code}/arrival/box`),
    keepAs: 'take in',
    patience: PATIENCE,
  });
  return form;
}
