'use client';

import { cloneElement, type ReactElement, type ReactNode } from 'react';
import { onDemand } from './on-demand';

const usePanels = onDemand(() => import('./panels'));

export interface OverProps {
  open: boolean;
  onOpen: (open: boolean) => void;
  title: ReactNode;
  /** One sentence under the title. */
  says?: ReactNode;
  /** px at most. */
  width?: number;
  children: ReactNode;
}

/** A question or a form above the page; Esc and a press beside it close it, and focus goes back. */
export function Over(props: OverProps) {
  const panels = usePanels(props.open, () => props.onOpen(false));
  return panels && <panels.Over {...props} />;
}

export interface SideProps {
  open: boolean;
  onClose: () => void;
  title: ReactNode;
  closeLabel: string;
  testId?: string;
  children: ReactNode;
}

/** What belongs to something on the page, at the side of it. */
export function Side(props: SideProps) {
  const panels = usePanels(props.open, props.onClose);
  return panels && <panels.Side {...props} />;
}

export interface SureProps {
  open: boolean;
  onOpen: (open: boolean) => void;
  title: string;
  /** Words on the safe answer. */
  stay?: string;
  /** What it would change. */
  says: ReactNode;
  /** Words on the button that does it. */
  act: string;
  onSure: () => void;
}

/** Asks before what cannot be taken back; the safe answer has the focus. */
export function Sure(props: SureProps) {
  const panels = usePanels(props.open, () => props.onOpen(false));
  return panels && <panels.Sure {...props} />;
}

export interface BesideProps {
  open: boolean;
  onOpen: (open: boolean) => void;
  /** The button it belongs to. */
  trigger: ReactElement<{
    onClick?: () => void;
    'aria-haspopup'?: 'dialog';
    'aria-expanded'?: boolean;
  }>;
  /** Class that sets its width. */
  width?: string;
  align?: 'start' | 'center' | 'end';
  children: ReactNode;
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
