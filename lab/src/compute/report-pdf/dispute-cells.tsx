import { formatNumber } from '@dusk-tally/core/units';
import { Text, View } from '@react-pdf/renderer';
import type { DisputeSnapshot } from '../dispute-snapshot';
import type { ReportedItem } from '../report-snapshot';
import type { ReportWords } from '../report-words';
import { fitted } from '../letters';
import { figureText } from './parts';
import { styles } from './styles';

const CELL_WIDTHS = ['40%', '24%', '20%', '16%'];
const CELL_HEADS = ['Cell', 'Capacity / Ah', 'Capacity claim', 'Short by / Ah'];
/** Room for the mark on a cell behind its number, points. */
const MARK_WIDTH = 130;
/** Rows of one block: one text a column, which is set much faster than one a cell. */
const BLOCK_ROWS = 20;

/** Lines of a block, five cells together as in the tally. */
const tallied = (lines: readonly string[]): string =>
  lines.map((line, i) => (i > 0 && i % 5 === 0 ? `\n${line}` : line)).join('\n');

/** Cell by cell: what it holds, what is judged of that, and by how much it is short. */
export function Cells({ snapshot, words }: { snapshot: DisputeSnapshot; words: ReportWords }) {
  const { say } = words;
  const short = new Map(snapshot.shortAh.map(({ number, ah }) => [number, ah]));
  const cells = (item: ReportedItem): string[] => {
    const ah = short.get(item.number);
    return [
      item.label ? `${item.number} ${fitted(item.label, MARK_WIDTH, 8)}` : item.number,
      say(figureText(item.capacity)),
      say(item.verdicts.capacity ?? 'open'),
      ah === undefined ? '–' : words.number(formatNumber(ah, 2)),
    ];
  };
  const rows = snapshot.evidence.items.map(cells);
  const blocks = Array.from({ length: Math.ceil(rows.length / BLOCK_ROWS) }, (_, i) =>
    rows.slice(i * BLOCK_ROWS, (i + 1) * BLOCK_ROWS),
  );
  return (
    <View>
      <View style={styles.head} fixed>
        {CELL_HEADS.map((head, i) => (
          <Text key={head} style={[styles.cell, { width: CELL_WIDTHS[i] }]}>
            {say(head)}
          </Text>
        ))}
      </View>
      {blocks.map((block) => (
        <View key={block[0]![0]} style={styles.row} wrap={false}>
          {CELL_WIDTHS.map((width, column) => (
            <Text key={column} style={[styles.cell, { width }]}>
              {tallied(block.map((row) => row[column]!))}
            </Text>
          ))}
        </View>
      ))}
    </View>
  );
}

/** What inspection and codes said of single cells, those of the same words together. */
export function OfCells({ snapshot, words }: { snapshot: DisputeSnapshot; words: ReportWords }) {
  const { say } = words;
  const byText = new Map<string, string[]>();
  for (const { number, onArrival } of snapshot.evidence.items)
    for (const text of onArrival ?? [])
      // First voltages differ from cell to cell: their range is told above.
      if (!text.startsWith('first voltage'))
        byText.set(text, [...(byText.get(text) ?? []), number]);
  const all = snapshot.evidence.items.length;
  return (
    <>
      {[...byText].map(([text, numbers]) => (
        <Text key={text} style={styles.item}>
          {`${text.split(', ').map(say).join(', ')}: ${numbers.length === all ? say('All items') : numbers.join(', ')}`}
        </Text>
      ))}
    </>
  );
}
