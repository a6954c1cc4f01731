'use client';

import type { LotBooks } from '@dusk-tally/lab/money';
import { Button } from '@/kit/button';
import { save } from '@/kit/save-file';

/** The books as a workbook, to be kept or handed on. */
export function BooksExport({ code, books }: { code: string; books: LotBooks }) {
  return (
    <Button
      onClick={() =>
        void import('./books-workbook').then(async ({ booksWorkbook }) =>
          save(await booksWorkbook(code, books), `${code} books.xlsx`),
        )
      }
    >
      As a workbook (XLSX)
    </Button>
  );
}
