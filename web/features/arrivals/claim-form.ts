import {
  CLAIM_ITEMS,
  CLAIM_KINDS,
  type ClaimConditions,
  type ClaimKind,
} from '@dusk-tally/core/arrivals';
import { claimItemInput } from '@dusk-tally/lab/inputs';
import { z } from 'zod';
import { type ClaimDraft, claimFromDraft, draftOf, type ItemDraft } from './claim-draft';

/** A stored item. */
export interface StoredItem {
  kind: ClaimKind;
  value: number | null;
  text: string | null;
  conditions: ClaimConditions;
}

/** Null for an item that is not claimed: it is a field all the same, which somebody else may fill. */
const item = z.custom<ItemDraft | null>();
const items = Object.fromEntries(CLAIM_KINDS.map((kind) => [kind, item])) as Record<
  ClaimKind,
  typeof item
>;

/** What is wrong with one item as typed; null where nothing is. */
function problemOf(kind: ClaimKind, draft: ItemDraft): string | null {
  const typed = claimFromDraft({ [kind]: draft });
  const bare = (message: string) => message.replace(`${CLAIM_ITEMS[kind].words}: `, '');
  if ('problem' in typed) return bare(typed.problem);
  const [one] = typed.claim;
  const checked = one && claimItemInput.safeParse(one);
  return checked?.error ? bare(checked.error.issues[0]!.message) : null;
}

/** A claim as it is typed, item by item, each checked as the act itself checks it. */
export const claimForm = z
  .object({ lotId: z.int(), version: z.int(), ...items })
  .superRefine((values, context) => {
    for (const kind of CLAIM_KINDS) {
      const draft = values[kind];
      const message = draft ? problemOf(kind, draft) : null;
      if (message !== null) context.addIssue({ code: 'custom', path: [kind], message });
    }
  });

/** The fields of it: a draft of each item that stands. */
export type ClaimValues = z.input<typeof claimForm>;

/** Fields with a stored claim in them. */
export const claimValues = (
  lotId: number,
  version: number,
  stored: readonly StoredItem[],
): ClaimValues => {
  const draft = draftOf(stored);
  const fields = Object.fromEntries(
    CLAIM_KINDS.map((kind) => [kind, draft[kind] ?? null]),
  ) as Record<ClaimKind, ItemDraft | null>;
  return { lotId, version, ...fields };
};

/** The items among the fields. */
export const draftIn = (values: ClaimValues): ClaimDraft =>
  Object.fromEntries(
    CLAIM_KINDS.flatMap((kind) => (values[kind] ? [[kind, values[kind]]] : [])),
  ) as ClaimDraft;
