import type { ReactElement, ReactNode } from 'react';

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

export interface SideProps {
  open: boolean;
  onClose: () => void;
  title: ReactNode;
  closeLabel: string;
  testId?: string;
  children: ReactNode;
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
