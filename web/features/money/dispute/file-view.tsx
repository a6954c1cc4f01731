import { formatNumber } from '@dusk-tally/core/units';
import type { DisputedItem, DisputeFilePage } from '@dusk-tally/lab/disputes';
import type { ReactNode } from 'react';
import { Link } from '@/kit/link';
import { Table } from '@/kit/table';
import { TracedFigure } from '@/kit/traced-figure';
import { Panel, Rows } from '../money-parts';
import { AddsUp } from './file-lacking';
import { Trail } from './trail';
import { Missed } from './missed-items';
import { overtakenWords, REMEDY_WORDS } from './words';

type Snapshot = DisputeFilePage['snapshot'];
type Item = Snapshot['evidence']['items'][number];

const Lines = ({ texts, href }: { texts: readonly string[]; href: string }) => (
  <ul className="space-y-0.5">
    {texts.map((text) => (
      <li key={text}>
        <Trail href={href}>{text}</Trail>
      </li>
    ))}
  </ul>
);

function Claimed({ items, lot }: { items: readonly DisputedItem[]; lot: string }) {
  const verdict = `/lots/${lot}/verdict`;
  return (
    <Panel title="The lot against its claim">
      <Table label="Claimed items">
        <thead>
          <tr>
            <th>Claim</th>
            <th>Claimed</th>
            <th className="num">Met</th>
            <th className="num">Not met</th>
            <th className="num">Too close</th>
            <th>Lot, mean (95 %)</th>
          </tr>
        </thead>
        <tbody>
          {items.map(({ words, claimed, met, notMet, tooClose, mean, why }) => (
            <tr key={words}>
              <td>{words}</td>
              <td>
                <Trail href={`/lots/${lot}/claim`}>{claimed}</Trail>
              </td>
              {[met, notMet, tooClose].map((count, i) => (
                <td key={i} className="num">
                  <Trail href={verdict}>{count}</Trail>
                </td>
              ))}
              <td>
                {mean || why.length > 0 ? (
                  <Trail href={verdict}>
                    {mean
                      ? `${formatNumber(mean.value, 3)} ${mean.unit} (${formatNumber(mean.low, 3)} to ${formatNumber(mean.high, 3)})`
                      : why.slice(0, 2).join('; ')}
                  </Trail>
                ) : met + notMet + tooClose === 0 ? (
                  <span className="text-quiet">not measured</span>
                ) : (
                  '–'
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Panel>
  );
}

const CELL_COLUMNS: [string, (item: Item) => ReactNode][] = [
  ['Capacity / Ah', (item) => <TracedFigure figure={item.capacity} />],
  ['as measured / Ah', (item) => <TracedFigure figure={item.capacityMeasured ?? null} />],
  ['Energy / Wh', (item) => <TracedFigure figure={item.energy} />],
  ['R 10 s / mΩ', (item) => <TracedFigure figure={item.dcResistance10s} />],
  ['R AC / mΩ', (item) => <TracedFigure figure={item.acResistance} />],
];

function Cells({ items }: { items: readonly Item[] }) {
  return (
    <Panel title="Cell by cell">
      <div className="overflow-x-auto">
        <Table label="Cell by cell">
          <thead>
            <tr>
              <th>Cell</th>
              {CELL_COLUMNS.map(([head]) => (
                <th key={head} className="num">
                  {head}
                </th>
              ))}
              <th>Capacity claim</th>
            </tr>
          </thead>
          <tbody>
            {items.map((item) => (
              <tr key={item.number}>
                <td>
                  <Link href={`/cells/${item.number}`} className="font-medium hover:underline">
                    {item.number}
                  </Link>
                </td>
                {CELL_COLUMNS.map(([head, figure]) => (
                  <td key={head} className="num">
                    {figure(item)}
                  </td>
                ))}
                <td>{item.verdicts.capacity ?? 'open'}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      </div>
    </Panel>
  );
}

function Order({ snapshot, lot }: { snapshot: Snapshot; lot: string }) {
  const { order, evidence, deadlineOn, remedy } = snapshot;
  const books = `/lots/${lot}/money`;
  const price =
    order.price === null
      ? 'not recorded'
      : order.paid !== undefined
        ? `${order.paid} ${order.currency}, ${order.price} less ${order.discount} off`
        : `${order.price} ${order.currency}`;
  return (
    <Panel title="The order, and what is asked">
      <Rows
        label="The order"
        rows={[
          [
            'Goods',
            <Trail key="" href={`/lots/${lot}/cells`}>
              {evidence.lot.cells} × {evidence.model.name}
            </Trail>,
          ],
          ['Ordered', order.orderedOn ?? 'not recorded'],
          ['Received', evidence.lot.receivedOn ?? 'not recorded'],
          [
            'Price paid',
            <Trail key="" href={books}>
              {price}
            </Trail>,
          ],
          [
            'Window for a dispute',
            <Trail key="" href={`/lots/${lot}/claim`}>
              {deadlineOn === null ? 'none stated' : `until ${deadlineOn}`}
            </Trail>,
          ],
          [
            `Asked, as ${REMEDY_WORDS[remedy.kind]}`,
            <Trail key="" href={books}>
              {remedy.amount}
            </Trail>,
            true,
          ],
        ]}
      />
    </Panel>
  );
}

/** Each part of the amount with its ground. */
function MadeOf({ snapshot: { grounds, remedy, order } }: { snapshot: Snapshot }) {
  if (!grounds || grounds.length === 0) return null;
  return (
    <Panel title="What the amount is made of">
      <Rows
        label="What the amount is made of"
        rows={[
          ...grounds.map(({ text, amount }): [string, ReactNode] => [text, amount]),
          [`Asked together / ${order.currency}`, remedy.amount.split(' ')[0], true],
        ]}
      />
    </Panel>
  );
}

/** A dispute file on screen: every figure opens what it comes of, and the shortfall adds up. */
export function FileView({
  page: { snapshot, lotCode: lot, overtaken },
}: {
  page: DisputeFilePage;
}) {
  const { verdict, evidence, arrival } = snapshot;
  const notSo = overtakenWords(overtaken, 'another amount');
  return (
    <div className="space-y-4">
      {notSo && <p className="font-medium text-doubt">{notSo}</p>}
      <p className="text-quiet">
        As it was frozen. A figure opens the result it was then, which never changes; the pages of
        the lot tell how it stands today.
      </p>
      <div className="grid gap-4 lg:grid-cols-2">
        <Panel title="In short">
          <p className="font-medium">{verdict.sentence}</p>
          <Lines texts={verdict.facts} href={`/lots/${lot}/verdict`} />
        </Panel>
        <Order snapshot={snapshot} lot={lot} />
      </div>
      <AddsUp snapshot={snapshot} lot={lot} />
      <MadeOf snapshot={snapshot} />
      <Claimed items={snapshot.items} lot={lot} />
      <Cells items={evidence.items} />
      <Missed items={snapshot.missed ?? []} />
      <div className="grid gap-4 lg:grid-cols-2">
        <Panel title="On arrival">
          <Lines texts={arrival} href={`/lots/${lot}/arrival`} />
        </Panel>
        <Panel title="Instruments">
          {evidence.instruments.length === 0 && (
            <p className="text-quiet">No instrument is recorded for these items.</p>
          )}
          <Lines
            texts={evidence.instruments.map(
              ({ name, accuracy, calibration }) => `${name}: ${accuracy}; ${calibration}.`,
            )}
            href="/lab"
          />
        </Panel>
      </div>
    </div>
  );
}
