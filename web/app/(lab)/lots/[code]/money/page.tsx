import { lotBooks } from '@dusk-tally/lab/money';
import { LotFrame } from '@/features/arrivals/lot-frame';
import { BooksView } from '@/features/money/books-view';
import { lab } from '@/lib/lab';
import { lotContext } from '@/lib/lot-page';

export const metadata = { title: 'Money' };

export default async function MoneyPage({ params }: { params: Promise<{ code: string }> }) {
  const { who, head } = await lotContext((await params).code);
  const books = await lotBooks(lab(), who, { lotId: head.lot.id });
  return (
    <LotFrame head={head} tab="money">
      <BooksView lotId={head.lot.id} code={head.lot.code} books={books} />
    </LotFrame>
  );
}
