'use client';

import { Printer } from 'lucide-react';
import { Button } from '@/kit/button';

export function PrintButton() {
  return (
    <Button look="primary" className="print:hidden" onClick={() => window.print()}>
      <Printer size={16} aria-hidden /> Print
    </Button>
  );
}
