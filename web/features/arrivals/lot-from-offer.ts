import { CLAIM_ITEMS, type ClaimKind, readOffer } from '@dusk-tally/core/arrivals';
import { type Chemistry, envelopeOfSizeCode } from '@dusk-tally/core/chemistry';
import { type ClaimDraft, EMPTY_CLAIM } from './claim-draft';
import type { LotDraft } from './lot-draft';
import { type ModelDraft, NEW_MODEL } from './model-fields';

/** An offer as it was looked at: what is kept of that form. */
export type LookedAt = Partial<Record<string, unknown>>;

const textOf = (value: unknown): string =>
  typeof value === 'number' || typeof value === 'string' ? String(value) : '';

/** What is claimed: what was typed, else what its text says. */
function claimOf({ text, claimedAh, massG }: LookedAt): ClaimDraft {
  const draft: ClaimDraft = { ...EMPTY_CLAIM };
  for (const { kind, value, text: words } of readOffer(textOf(text)))
    if (kind in CLAIM_ITEMS)
      draft[kind as ClaimKind] = { value: words ?? String(value), conditions: {} };
  const typed = { capacity: textOf(claimedAh), mass: textOf(massG) };
  for (const [kind, value] of Object.entries(typed))
    if (value !== '') draft[kind as 'capacity' | 'mass'] = { value, conditions: {} };
  return draft;
}

function modelOf({ chemistry, sizeCode, claimedAh, massG }: LookedAt): ModelDraft {
  const size = envelopeOfSizeCode(textOf(sizeCode));
  return {
    ...NEW_MODEL,
    ...(textOf(chemistry) !== '' && { chemistry: chemistry as Chemistry }),
    ratedAh: textOf(claimedAh),
    massG: textOf(massG),
    ...(size?.shape === 'cylinder' && {
      format: 'cylinder',
      diameterMm: String(size.diameterMm),
      heightMm: String(size.heightMm),
    }),
  };
}

/** A lot as far as the offer that was looked at says it. */
export function lotFromOffer(
  offer: LookedAt,
  empty: LotDraft,
  suppliers: readonly { id: number; name: string }[],
): LotDraft {
  const modelId = textOf(offer.modelId);
  return {
    ...empty,
    supplierName: suppliers.find(({ id }) => id === offer.supplierId)?.name ?? '',
    orderedQuantity: textOf(offer.cells),
    price: textOf(offer.price),
    currency: textOf(offer.currency),
    rate: typeof offer.rate === 'number' ? offer.rate : null,
    modelId: modelId === '' ? 'new' : modelId,
    model: modelId === '' ? modelOf(offer) : empty.model,
    claim: claimOf(offer),
    offer: textOf(offer.text),
  };
}
