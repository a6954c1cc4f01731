import { lotStrings } from '@dusk-tally/lab/evidence';
import { LotFrame } from '@/features/arrivals/lot-frame';
import { StringList } from '@/features/evidence/strings/string-list';
import { StringTakeIn } from '@/features/evidence/strings/string-take-in';
import { lab } from '@/lib/lab';
import { lotContext } from '@/lib/lot-page';

export const metadata = { title: 'Strings' };

export default async function StringsPage({ params }: { params: Promise<{ code: string }> }) {
  const { who, head } = await lotContext((await params).code);
  const strings = await lotStrings(lab(), who, { lotId: head.lot.id });
  return (
    <LotFrame head={head} tab="strings">
      {!head.lot.cancelledAt && (
        <StringTakeIn
          lotId={head.lot.id}
          suggested={strings.length === 0 ? 'First period' : `Period ${strings.length + 1}`}
        />
      )}
      <StringList strings={strings} />
    </LotFrame>
  );
}
