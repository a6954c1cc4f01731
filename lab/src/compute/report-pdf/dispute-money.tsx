import { formatNumber } from '@dusk-tally/core/units';
import { Text, View } from '@react-pdf/renderer';
import type { DisputeSnapshot } from '../dispute-snapshot';
import type { ReportWords } from '../report-words';
import { Heading, Pair } from './parts';
import { styles } from './styles';

/** What cells judged not met lack, and what that is worth. */
export function Shortfall({ snapshot, words }: { snapshot: DisputeSnapshot; words: ReportWords }) {
  const { shortfall, order, formatVersion } = snapshot;
  const { say } = words;
  if (!shortfall) return null;
  const { pricedFor } = shortfall;
  const money = (amount: string) => say(`${amount} ${order.currency}`);
  return (
    <View wrap={false}>
      <Heading>{say('What is lacking')}</Heading>
      <Pair name={say('A claimed Ah')}>
        {pricedFor
          ? say(
              `${shortfall.perAh} ${order.currency}, of ${pricedFor.amount} for ${pricedFor.cells} cells of ${pricedFor.ah} Ah`,
            )
          : money(shortfall.perAh)}
      </Pair>
      <Pair name={say('Judged not met')}>
        {say(`${shortfall.cells} of ${shortfall.tested}, ${formatNumber(shortfall.ah, 2)} Ah`)}
      </Pair>
      <Pair name={say('Worth')}>
        {say(
          `${shortfall.amount} ${order.currency}, between ${shortfall.low} and ${shortfall.high} by the uncertainty of the meters`,
        )}
      </Pair>
      <Pair
        name={say(
          formatVersion >= 3 ? 'All below the claim, with the uncertainty' : 'All below the claim',
        )}
      >
        {say(`${formatNumber(shortfall.upperAh, 2)} Ah, ${shortfall.upper} ${order.currency}`)}
      </Pair>
    </View>
  );
}

/** Each part of the amount on its own line with its ground, adding up to it. */
export function Grounds({
  snapshot: { grounds, remedy, order },
  words: { say, number },
}: {
  snapshot: DisputeSnapshot;
  words: ReportWords;
}) {
  if (!grounds || grounds.length === 0) return null;
  const line = (key: string, text: string, amount: string, isSum = false) => (
    <View key={key} style={styles.row} wrap={false}>
      <Text style={[styles.cell, { width: '80%', fontWeight: isSum ? 600 : 400 }]}>{text}</Text>
      <Text
        style={[styles.cell, { width: '20%', textAlign: 'right', fontWeight: isSum ? 600 : 400 }]}
      >
        {amount}
      </Text>
    </View>
  );
  return (
    <View wrap={false}>
      <Heading>{say('What the amount is made of')}</Heading>
      {grounds.map(({ kind, text, amount }) =>
        line(kind, kind === 'told' ? text : say(text), number(amount)),
      )}
      {line(
        'sum',
        `${say('Asked together')} / ${order.currency}`,
        number(remedy.amount.split(' ')[0]!),
        true,
      )}
    </View>
  );
}

/** Every other item that cells miss, with what was found of each. */
export function Missed({
  snapshot: { missed, evidence },
  words: { say, number },
}: {
  snapshot: DisputeSnapshot;
  words: ReportWords;
}) {
  const said = (text: string) =>
    /^\d/.test(text) ? number(text) : text.split('; ').map(say).join('; ');
  const named = (cells: readonly string[]) =>
    cells.length === evidence.items.length ? say('All items') : cells.join(', ');
  return (missed ?? []).map(({ words, claimed, found }) => (
    <View key={words} style={{ marginTop: 4 }}>
      <Text style={[styles.item, { fontWeight: 600 }]}>
        {`${say(words)}: ${claimed.split(', ').map(say).join(', ')}`}
      </Text>
      {found.map(({ text, cells }) => (
        <Text key={text} style={styles.item}>
          {`${said(text)}: ${named(cells)}`}
        </Text>
      ))}
    </View>
  ));
}
