import { formatNumber } from '@dusk-tally/core/units';
import { Document, Image, Page, Text, View } from '@react-pdf/renderer';
import type { DisputedItem, DisputePicture, DisputeSnapshot } from '../dispute-snapshot';
import { reportWords, type ReportWords } from '../report-words';
import { CurveChart, LotChart } from './charts';
import { Cells, OfCells } from './dispute-cells';
import { Grounds, Missed, Shortfall } from './dispute-money';
import { Claim, Heading, Instruments, issuedOn, issuedWords, Lines, Mark, Pair } from './parts';
import { styles } from './styles';

const REMEDY = {
  return: 'We ask to send the goods back for a refund of {amount}.',
  partialRefund: 'We ask for a partial refund of {amount}; the goods stay here.',
  replace: 'We ask for a replacement that holds what was claimed, worth {amount}.',
};

/** A sentence with an amount in it. */
const remedyWords = ({ kind, amount }: DisputeSnapshot['remedy']): string =>
  REMEDY[kind].replace('{amount}', amount);

function Order({ snapshot, words: { say } }: { snapshot: DisputeSnapshot; words: ReportWords }) {
  const { supplier, order, evidence, deadlineOn } = snapshot;
  const { lot, model } = evidence;
  return (
    <>
      <Mark mark={evidence.lab.mark} />
      <Text style={styles.title}>{say(`Dispute file ${snapshot.number}`)}</Text>
      <Text style={styles.lead}>
        {[evidence.lab.name, evidence.lab.place].filter(Boolean).join(', ')}
      </Text>
      <Pair name={say('Supplier')}>
        {[supplier.name, supplier.place].filter(Boolean).join(', ')}
      </Pair>
      <Pair name={say('Goods')}>{`${lot.cells} × ${model.name} (${lot.code}, ${lot.title})`}</Pair>
      <Pair name={say('Ordered')}>{say(order.orderedOn ?? 'not recorded')}</Pair>
      <Pair name={say('Received')}>{say(lot.receivedOn ?? 'not recorded')}</Pair>
      <Pair name={say('Price paid')}>
        {order.price === null
          ? say('not recorded')
          : order.paid !== undefined
            ? say(`${order.paid} ${order.currency}, ${order.price} less ${order.discount} off`)
            : say(`${order.price} ${order.currency}`)}
      </Pair>
      <Pair name={say('Window for a dispute')}>
        {say(deadlineOn === null ? 'none stated' : `until ${deadlineOn}`)}
      </Pair>
      <Pair name={say('Issued')}>{say(issuedWords(snapshot.evidence, snapshot.issuedBy))}</Pair>
    </>
  );
}

/** What it is about, in plain words, before any table. */
function InShort({ snapshot, words: { say } }: { snapshot: DisputeSnapshot; words: ReportWords }) {
  const { shortfall, remedy, verdict, order } = snapshot;
  return (
    <View wrap={false}>
      <Heading>{say('In short')}</Heading>
      <Text style={styles.item}>{say(verdict.sentence)}</Text>
      {verdict.facts.map((fact) => (
        <Text key={fact} style={styles.item}>{`${say(fact)}.`}</Text>
      ))}
      {shortfall ? (
        <Text style={styles.item}>
          {say(
            `${shortfall.cells} of ${shortfall.tested} tested cells are short by ${formatNumber(shortfall.ah, 2)} Ah together, worth ${shortfall.amount} ${order.currency} at the price per claimed Ah.`,
          )}
        </Text>
      ) : null}
      <Text style={[styles.item, { fontWeight: 600 }]}>{say(remedyWords(remedy))}</Text>
    </View>
  );
}

function Offer({
  offer: { texts, pictures },
  words: { say },
}: {
  offer: DisputeSnapshot['offer'];
  words: ReportWords;
}) {
  if (texts.length + pictures.length === 0) return null;
  return (
    <>
      <Heading>{say('The offer as it was made')}</Heading>
      {texts.map((text) => (
        <Text key={text} style={[styles.item, styles.quote]}>
          {text}
        </Text>
      ))}
      <View style={styles.pictures}>
        {pictures.map((picture) => (
          <Picture key={picture.name} picture={picture} />
        ))}
      </View>
    </>
  );
}

function Picture({ picture: { name, jpeg, width, height } }: { picture: DisputePicture }) {
  const scale = Math.min(150 / width, 110 / height, 1);
  return (
    <View wrap={false} style={{ marginRight: 8, marginBottom: 4 }}>
      <Image src={jpeg} style={{ width: width * scale, height: height * scale }} />
      <Text style={styles.small}>{name}</Text>
    </View>
  );
}

function ItemRow({ item, words: { say } }: { item: DisputedItem; words: ReportWords }) {
  const { mean } = item;
  const cells = [
    say(item.words),
    item.claimed.split(', ').map(say).join(', '),
    String(item.met),
    String(item.notMet),
    String(item.tooClose),
    mean
      ? say(
          `${formatNumber(mean.value, 3)} ${mean.unit} (${formatNumber(mean.low, 3)} to ${formatNumber(mean.high, 3)})`,
        )
      : item.why.slice(0, 2).map(say).join('; ') ||
        (item.met + item.notMet + item.tooClose === 0 ? say('not measured') : '–'),
  ];
  return (
    <View style={styles.row} wrap={false}>
      {ITEM_WIDTHS.map((width, i) => (
        <Text key={i} style={[styles.cell, { width }, i > 1 && i < 5 ? styles.count : {}]}>
          {cells[i]}
        </Text>
      ))}
    </View>
  );
}

/** Fewer cells have no spread worth a picture. */
const SPREAD_FROM = 5;

const ITEM_WIDTHS = ['18%', '25%', '8%', '9%', '10%', '30%'];
const ITEM_HEADS = ['Claim', 'claimed', 'met', 'not met', 'too close', 'lot, mean (95 %)'];

function Items({ items, words }: { items: readonly DisputedItem[]; words: ReportWords }) {
  return (
    <View>
      <View style={styles.head}>
        {ITEM_HEADS.map((head, i) => (
          <Text
            key={head}
            style={[styles.cell, { width: ITEM_WIDTHS[i] }, i > 1 && i < 5 ? styles.count : {}]}
          >
            {words.say(head)}
          </Text>
        ))}
      </View>
      {items.map((item) => (
        <ItemRow key={item.words} item={item} words={words} />
      ))}
    </View>
  );
}

function Signature({
  snapshot,
  words: { say },
}: {
  snapshot: DisputeSnapshot;
  words: ReportWords;
}) {
  return (
    <View wrap={false} style={{ marginTop: 18 }}>
      <Text style={styles.item}>{say(remedyWords(snapshot.remedy))}</Text>
      <Text style={[styles.item, { marginTop: 26 }]}>
        {`${snapshot.evidence.lab.place || '…………'}, ${say(issuedOn(snapshot.evidence).day)}    ……………………………………    ${snapshot.issuedBy}`}
      </Text>
    </View>
  );
}

/** The file that goes to the supplier. Made only from the frozen snapshot. */
export function DisputeDocument({ snapshot }: { snapshot: DisputeSnapshot }) {
  const words = reportWords(snapshot.language);
  const { say } = words;
  const { evidence } = snapshot;
  const hasCurves = evidence.items.some((item) => item.curve && item.curve.ah.length > 1);
  return (
    <Document
      title={say(`Dispute file ${snapshot.number}`)}
      author={evidence.lab.name}
      creationDate={new Date(snapshot.issuedAt)}
      language={words.language}
    >
      <Page size="A4" style={styles.page}>
        <View style={styles.footer} fixed>
          <Text>{say(`Dispute file ${snapshot.number}`)}</Text>
          <Text
            render={({ pageNumber, totalPages }) => say(`page ${pageNumber} of ${totalPages}`)}
          />
        </View>
        <Order snapshot={snapshot} words={words} />
        <InShort snapshot={snapshot} words={words} />
        <Heading>{say('Claim')}</Heading>
        <Claim claim={evidence.claim} words={words} />
        <Offer offer={snapshot.offer} words={words} />
        <Heading>{say('On arrival')}</Heading>
        <Lines texts={snapshot.arrival} words={words} />
        <Heading>{say('The lot against its claim')}</Heading>
        <Items items={snapshot.items} words={words} />
        <Shortfall snapshot={snapshot} words={words} />
        <Grounds snapshot={snapshot} words={words} />
        {hasCurves ? (
          <View wrap={false}>
            <Heading>{say('Capacity curves')}</Heading>
            <CurveChart snapshot={evidence} words={words} />
          </View>
        ) : null}
        {evidence.lotPosition.tested >= SPREAD_FROM ? (
          <View wrap={false}>
            <Heading>{say('Spread of the lot')}</Heading>
            <LotChart snapshot={evidence} words={words} />
          </View>
        ) : null}
        <Heading room={180}>{say('Cell by cell')}</Heading>
        <Cells snapshot={snapshot} words={words} />
        <Missed snapshot={snapshot} words={words} />
        <OfCells snapshot={snapshot} words={words} />
        <Heading>{say('Method')}</Heading>
        <Lines texts={evidence.method} words={words} />
        <Lines texts={evidence.decisionRule} words={words} />
        <Heading>{say('Instruments')}</Heading>
        <Instruments instruments={evidence.instruments} words={words} />
        <Pair name={say('Tested by')}>{evidence.testedBy.join(', ') || '–'}</Pair>
        <Signature snapshot={snapshot} words={words} />
      </Page>
    </Document>
  );
}
