'use client';

import { onDemand } from '@/kit/on-demand';
import { useAddress } from '@/lib/use-address';

const useSide = onDemand(() => import('./trail-side'));

/** How a figure came about, beside any page whose address ends in `?figure=…`. */
export function TrailPanel() {
  const { query, set } = useAddress();
  const id = query.get('figure');
  const close = () => set({ figure: null });
  const side = useSide(id !== null, close);
  return side && <side.TrailSide id={id} onClose={close} />;
}
