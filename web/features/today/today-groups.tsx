import { URGENCIES, type Urgency } from '@dusk-tally/lab';
import type { PressingDue } from '@dusk-tally/lab/today';
import type { LotHead } from '@dusk-tally/lab/verdicts';
import { Link } from '@/kit/link';
import { TallyThumb } from '@/kit/tally-strokes';
import { gatheredDue, LAB_PLACE } from './gathered-due';
import { DUE_WORDS } from './due-words';

const TITLES: Record<Urgency, string> = {
  danger: 'Danger',
  now: 'Due now',
  blocked: 'Blocked',
  canWait: 'Can wait',
};
const EDGE: Record<Urgency, string> = {
  danger: 'border-2 border-missed',
  now: 'border-strong-rule',
  blocked: '',
  canWait: '',
};

function Item({ item }: { item: PressingDue }) {
  const { icon: Icon, words, doing } = DUE_WORDS[item.kind];
  return (
    <Link
      href={item.path}
      title={doing}
      className="group inline-flex min-h-7 items-center gap-1.5 rounded-sm px-1.5 hover:bg-wash pointer-coarse:min-h-11"
    >
      <Icon size={15} className="shrink-0 text-quiet" aria-hidden />
      <span className="underline-offset-4 group-hover:underline">{words(item)}</span>
      {(item.presses === 'danger' || item.presses === 'now') && (
        <span className="whitespace-nowrap text-ember">{doing}</span>
      )}
    </Link>
  );
}

/** Where the items of one row are: a lot with its tally, or a place of the lab. */
function Place({ code, title, head }: { code: string | null; title: string; head?: LotHead }) {
  if (!code) return <span className="font-semibold">{title}</span>;
  return (
    <Link
      href={`/lots/${code}`}
      title={head ? `${title}, ${head.supplier.name}` : title}
      className="block min-w-0 truncate rounded-sm hover:underline"
    >
      <span className="mr-1.5 text-quiet">{code}</span>
      <span className="font-semibold">{title}</span>
    </Link>
  );
}

/** What is due, by how much it presses; of one urgency lot by lot. */
export function TodayGroups({
  items,
  heads,
}: {
  items: readonly PressingDue[];
  heads: readonly LotHead[];
}) {
  const byCode = new Map(heads.map((head) => [head.lot.code, head]));
  return (
    <div className="space-y-2">
      {URGENCIES.map((urgency) => {
        const places = gatheredDue(items.filter(({ presses }) => presses === urgency));
        if (places.length === 0) return null;
        return (
          <section
            key={urgency}
            className={`panel px-4 py-1.5 ${EDGE[urgency]}`}
            aria-labelledby={`today-${urgency}`}
          >
            <h2
              id={`today-${urgency}`}
              className={`font-semibold ${urgency === 'danger' ? 'text-missed' : ''}`}
            >
              {TITLES[urgency]}
            </h2>
            <ul className="divide-y divide-rule">
              {places.map(({ place, title, items: own }) => {
                const head = byCode.get(place);
                return (
                  <li
                    key={place}
                    className="grid grid-cols-[17rem_1fr_auto] items-start gap-x-3 py-0.5 max-lg:grid-cols-1"
                  >
                    <div className="min-w-0 py-0.5">
                      <Place code={place === LAB_PLACE ? null : place} title={title} head={head} />
                    </div>
                    <ul className="flex flex-wrap gap-x-2 text-[0.95rem]">
                      {own.map((item) => (
                        <li key={item.key}>
                          <Item item={item} />
                        </li>
                      ))}
                    </ul>
                    {head && head.strokes.length > 0 && (
                      <span className="max-xl:hidden">
                        <TallyThumb strokes={head.strokes} width={130} height={24} />
                      </span>
                    )}
                  </li>
                );
              })}
            </ul>
          </section>
        );
      })}
    </div>
  );
}
