'use client';

import { cloneElement } from 'react';
import { onDemand } from './on-demand';
import type { BesideProps, OverProps, SideProps, SureProps } from './panel-props';

const usePanels = onDemand(() => import('./panels'));

/** A question or a form above the page; Esc and a press beside it close it, and focus goes back. */
export function Over(props: OverProps) {
  const panels = usePanels(props.open, () => props.onOpen(false));
  return panels && <panels.Over {...props} />;
}

/** What belongs to something on the page, at the side of it. */
export function Side(props: SideProps) {
  const panels = usePanels(props.open, props.onClose);
  return panels && <panels.Side {...props} />;
}

/** Asks before what cannot be taken back; the safe answer has the focus. */
export function Sure(props: SureProps) {
  const panels = usePanels(props.open, () => props.onOpen(false));
  return panels && <panels.Sure {...props} />;
}

/** A small panel at a button. */
export function Beside(props: BesideProps) {
  const panels = usePanels(props.open, () => props.onOpen(false));
  if (panels) return <panels.Beside {...props} />;
  // The button alone, until it is pressed; the focus goes into the panel then.
  return cloneElement(props.trigger, {
    onClick: () => props.onOpen(true),
    'aria-haspopup': 'dialog',
    'aria-expanded': props.open,
  });
}
