import { formatNumber } from '@dusk-tally/core/units';
import { healthText } from '@dusk-tally/core/verdicts';
import { Document, Page, Text, View } from '@react-pdf/renderer';
import type { ReportedItem, ReportSnapshot } from '../report-snapshot';
import { reportWords, type ReportWords } from '../report-words';
import { CurveChart, LotChart } from './charts';
import { fitted } from '../letters';
import { Claim, figureText, Heading, Instruments, issuedWords, Lines, Mark, Pair } from './parts';
import { styles } from './styles';

/** The capacity at the claim’s conditions, and below it what was measured. */
const capacityWords = ({ capacity, capacityMeasured }: ReportedItem): string =>
  [
    figureText(capacity),
    ...(capacityMeasured ? [`measured ${figureText(capacityMeasured)}`] : []),
  ].join('\n');

/** Width of the text on a page, points: A4 less its margins. */
const TEXT_WIDTH = 595.28 - 2 * 46;
const CELL_SIZE = 8;
const cellWidth = (percent: number): number => (TEXT_WIDTH * percent) / 100 - 4;

/** A text in a column: a word that is wider than it is shortened, never printed over the next one. */
const inColumn = (text: string, percent: number): string =>
  text
    .split('\n')
    .map((line) =>
      line
        .split(' ')
        .map((word) => fitted(word, cellWidth(percent), CELL_SIZE))
        .join(' '),
    )
    .join('\n');

/** The mark on the cell on a line of its own, as far as there is room. */
const numberAndMark = ({ number, label }: ReportedItem): string =>
  label ? `${number}\n${fitted(label, cellWidth(ITEM_PERCENT), CELL_SIZE)}` : number;

const ITEM_PERCENT = 13;
const COLUMNS: {
  head: string;
  percent: number;
  right?: boolean;
  of: (item: ReportedItem) => string;
}[] = [
  {
    head: 'Item',
    percent: ITEM_PERCENT,
    of: numberAndMark,
  },
  { head: 'Capacity / Ah', percent: 20, right: true, of: capacityWords },
  { head: 'Energy / Wh', percent: 12, right: true, of: (item) => figureText(item.energy) },
  {
    head: 'R 10 s / mΩ',
    percent: 13,
    right: true,
    of: (item) => figureText(item.dcResistance10s),
  },
  { head: 'R AC / mΩ', percent: 15, right: true, of: (item) => figureText(item.acResistance) },
  {
    head: 'SoH / %',
    percent: 7,
    right: true,
    of: (item) => healthText(item.stateOfHealthPct, item.capacity?.bound),
  },
  { head: 'Capacity claim', percent: 12, of: (item) => item.verdicts.capacity ?? 'open' },
  { head: 'Grade', percent: 8, of: (item) => item.grade ?? 'waiting' },
];

function Results({ items, words: { say } }: { items: ReportedItem[]; words: ReportWords }) {
  return (
    <View>
      <View style={styles.head} fixed>
        {COLUMNS.map((column) => (
          <Text
            key={column.head}
            style={[styles.cell, { width: `${column.percent}%` }, column.right ? styles.right : {}]}
          >
            {inColumn(say(column.head), column.percent)}
          </Text>
        ))}
      </View>
      {items.map((item) => (
        <View key={item.number} style={styles.row} wrap={false}>
          {COLUMNS.map((column) => (
            <Text
              key={column.head}
              style={[
                styles.cell,
                { width: `${column.percent}%` },
                column.right ? styles.right : {},
              ]}
            >
              {inColumn(
                column.head === 'Item' || (column.head === 'Grade' && item.grade !== null)
                  ? column.of(item)
                  : column.of(item).split('\n').map(say).join('\n'),
                column.percent,
              )}
            </Text>
          ))}
        </View>
      ))}
    </View>
  );
}

/** Marks that had no room in the table, in full. */
const longMarks = (items: readonly ReportedItem[]): string =>
  items
    .flatMap((item) =>
      item.label && !numberAndMark(item).endsWith(`\n${item.label}`)
        ? [`${item.number} ${item.label}`]
        : [],
    )
    .join('; ');

/** Reasons and remarks, items with the same words gathered in one line. */
function remarks(items: ReportedItem[]): { numbers: string[]; text: string }[] {
  const byText = new Map<string, string[]>();
  for (const item of items) {
    const ac = item.verdicts.acResistance
      ? [`AC resistance against claim: ${item.verdicts.acResistance}.`]
      : [];
    const arrival = item.onArrival?.length ? [`On arrival: ${item.onArrival.join('; ')}.`] : [];
    for (const text of [
      ...item.reasons,
      ...ac,
      ...(item.corrections ?? []),
      ...item.differences,
      ...arrival,
      ...(item.rest ?? []),
    ])
      byText.set(text, [...(byText.get(text) ?? []), item.number]);
  }
  return [...byText].map(([text, numbers]) => ({ text, numbers }));
}

function numbersInWords(numbers: string[], total: number): string {
  if (numbers.length === total && total > 1) return 'All items';
  return numbers.length > 8
    ? `${numbers.slice(0, 6).join(', ')} and ${numbers.length - 6} more`
    : numbers.join(', ');
}

function Position({ snapshot, words }: { snapshot: ReportSnapshot; words: ReportWords }) {
  const { say } = words;
  const { tested, mean, standardDeviation, minimum } = snapshot.lotPosition;
  const ranks = snapshot.items.flatMap((item) =>
    item.rank ? [say(`${item.number}: ${item.rank} of ${tested}`)] : [],
  );
  return (
    <View wrap={false}>
      <Heading>{say('Position in the lot')}</Heading>
      <Text style={styles.item}>
        {say(
          `${tested} of ${snapshot.lot.cells} cells of lot ${snapshot.lot.code} tested to the cut-off: mean ${formatNumber(mean!, 3)} Ah, ` +
            `standard deviation ${standardDeviation === null ? '–' : formatNumber(standardDeviation, 3)} Ah, lowest ${formatNumber(minimum!, 3)} Ah. Items of this report are ticked below the axis.`,
        )}
      </Text>
      <LotChart snapshot={snapshot} words={words} />
      {ranks.length <= 24 ? (
        <Text style={styles.small}>{say(`Rank by capacity: ${ranks.join('; ')}.`)}</Text>
      ) : null}
    </View>
  );
}

const FORMAT_WORDS: Readonly<Record<string, string>> = {
  cylinder: 'cylindrical',
  prism: 'prismatic',
  pouch: 'pouch',
};

function About({ snapshot, words }: { snapshot: ReportSnapshot; words: ReportWords }) {
  const { say } = words;
  const { mark } = snapshot.lab;
  return (
    <>
      <Mark mark={mark} />
      <Text style={styles.title}>{say(`Test report ${snapshot.number}`)}</Text>
      <Text style={styles.lead}>
        {[snapshot.lab.name, snapshot.lab.place].filter(Boolean).join(', ')}
      </Text>
      <Pair name={say('Customer')}>{snapshot.customer}</Pair>
      <Pair name={say('Issued')}>{say(issuedWords(snapshot, snapshot.issuedBy))}</Pair>
      <Pair name={say('Tested by')}>{snapshot.testedBy.join(', ') || '–'}</Pair>
      <Pair name={say('Items')}>
        {say(`${snapshot.items.length} of lot ${snapshot.lot.code}, ${snapshot.lot.title}`)}
      </Pair>
      <Pair name={say('Received')}>{say(snapshot.lot.receivedOn ?? 'not recorded')}</Pair>
      <Pair name={say('Model')}>
        {[
          snapshot.model.name,
          say(snapshot.model.chemistry),
          say(FORMAT_WORDS[snapshot.model.format] ?? snapshot.model.format),
        ].join(', ')}
      </Pair>
      <Heading>{say('Claim')}</Heading>
      <Claim claim={snapshot.claim} words={words} />
    </>
  );
}

/** The buyer's report. Made only from the frozen snapshot. */
export function ReportDocument({ snapshot }: { snapshot: ReportSnapshot }) {
  const words = reportWords(snapshot.language);
  const { say } = words;
  const hasCurves = snapshot.items.some((item) => item.curve && item.curve.ah.length > 1);
  return (
    <Document
      title={say(`Test report ${snapshot.number}`)}
      author={snapshot.lab.name}
      creationDate={new Date(snapshot.issuedAt)}
      language={words.language}
    >
      <Page size="A4" style={styles.page}>
        <View style={styles.footer} fixed>
          <Text>{say(`Report ${snapshot.number}, ${snapshot.lab.name}`)}</Text>
          <Text
            render={({ pageNumber, totalPages }) => say(`page ${pageNumber} of ${totalPages}`)}
          />
        </View>
        <About snapshot={snapshot} words={words} />
        <Heading>{say('Results')}</Heading>
        <Results items={snapshot.items} words={words} />
        <Text style={[styles.small, { marginTop: 4 }]}>
          {say(`Grades by ${snapshot.gradeScheme}. “–”: not measured.`)}
          {(snapshot.gradeMeanings ?? [])
            .map(
              ({ grade, conditions, note }) =>
                ` ${grade}: ${conditions.length > 0 ? conditions.map(say).join('; ') : say('what no better grade takes')}${note ? ` (${say(note)})` : ''}.`,
            )
            .join('')}
          {snapshot.gradeDoubt ? ` ${say(snapshot.gradeDoubt)}` : ''}
        </Text>
        {longMarks(snapshot.items) === '' ? null : (
          <Text style={[styles.small, { marginTop: 2 }]}>
            {`${say('Marks on the cells in full')}: ${longMarks(snapshot.items)}.`}
          </Text>
        )}
        {remarks(snapshot.items).length > 0 ? (
          <Heading>{say('Reasons and remarks')}</Heading>
        ) : null}
        {remarks(snapshot.items).map(({ numbers, text }) => (
          <Text
            key={text}
            style={styles.item}
          >{`${say(numbersInWords(numbers, snapshot.items.length))}: ${say(text)}`}</Text>
        ))}
        {hasCurves ? (
          <View wrap={false}>
            <Heading>{say('Capacity curves')}</Heading>
            <CurveChart snapshot={snapshot} words={words} />
          </View>
        ) : null}
        {snapshot.lotPosition.bins.length > 0 ? (
          <Position snapshot={snapshot} words={words} />
        ) : null}
        <Heading>{say('Method')}</Heading>
        <Lines texts={snapshot.method} words={words} />
        <Lines texts={snapshot.decisionRule} words={words} />
        <Heading>{say('Instruments')}</Heading>
        <Instruments instruments={snapshot.instruments} words={words} />
        <Heading>{say('Not tested')}</Heading>
        <Lines texts={snapshot.notTested} words={words} />
        <Heading>{say('Cautions for use and storage')}</Heading>
        <Lines texts={snapshot.cautions} words={words} />
        <Text style={[styles.item, { marginTop: 8 }]}>
          {say('The results relate only to the items tested.')}
        </Text>
      </Page>
    </Document>
  );
}
