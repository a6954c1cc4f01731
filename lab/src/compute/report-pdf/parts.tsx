import { aheadMs, formatWithUncertainty } from '@dusk-tally/core/units';
import { Image, Text, View } from '@react-pdf/renderer';
import type { ReactNode } from 'react';
import type { ReportedFigure, ReportSnapshot } from '../report-snapshot';
import type { ReportWords } from '../report-words';
import { styles } from './styles';

const BOUND_WORDS = { exact: '', atLeast: 'at least ', atMost: 'at most ' };

/** A heading that is never left alone at the foot of a page. @param room points that must be free under it. */
export function Heading({ children, room = 48 }: { children: string; room?: number }) {
  return (
    <Text style={styles.heading} minPresenceAhead={room}>
      {children}
    </Text>
  );
}

/** Day and time something was issued, on the lab’s clock where it is known; `YYYY-MM-DD HH:MM`. */
export function issuedOn({ issuedAt, timeZone }: Pick<ReportSnapshot, 'issuedAt' | 'timeZone'>) {
  const ahead = timeZone === undefined ? 0 : aheadMs(timeZone, new Date(issuedAt));
  const shown = new Date(Date.parse(issuedAt) + ahead).toISOString();
  return { day: shown.slice(0, 10), moment: shown.slice(0, 16).replace('T', ' ') };
}

/** When it was issued, and by whom. */
export function issuedWords(
  snapshot: Pick<ReportSnapshot, 'issuedAt' | 'timeZone'>,
  issuedBy: string,
): string {
  const { moment } = issuedOn(snapshot);
  return snapshot.timeZone === undefined
    ? `${moment} UTC by ${issuedBy}`
    : `${moment}, ${snapshot.timeZone}, by ${issuedBy}`;
}

/** A figure with its uncertainty; `–` where nothing was measured. */
export function figureText(figure: ReportedFigure | null): string {
  if (!figure) return '–';
  const { value, uncertainty } = formatWithUncertainty(figure.value, figure.U);
  return `${BOUND_WORDS[figure.bound]}${value}${uncertainty ? ` ± ${uncertainty}` : ''}`.replaceAll(
    '\u202f',
    '\u00a0',
  );
}

/** A mark fits a corner: at most 150 × 44 points. */
function markSize({ width, height }: { width: number; height: number }) {
  const scale = Math.min(150 / width, 44 / height, 1);
  return { width: width * scale, height: height * scale };
}

/** The lab’s mark in its corner. */
export function Mark({ mark }: { mark: ReportSnapshot['lab']['mark'] }) {
  return mark ? <Image src={mark.png} style={{ ...styles.mark, ...markSize(mark) }} /> : null;
}

/** A name and what it is. */
export function Pair({ name, children }: { name: string; children: ReactNode }) {
  return (
    <View style={styles.pair}>
      <Text style={styles.name}>{name}</Text>
      <Text style={styles.value}>{children}</Text>
    </View>
  );
}

/** Short texts, one below the other. */
export function Lines({ texts, words: { say } }: { texts: string[]; words: ReportWords }) {
  return (
    <>
      {texts.map((text) => (
        <Text key={text} style={styles.item}>
          {say(text)}
        </Text>
      ))}
    </>
  );
}

/** What was measured with, as it was described then. */
export function Instruments({
  instruments,
  words: { say },
}: {
  instruments: ReportSnapshot['instruments'];
  words: ReportWords;
}) {
  return (
    <>
      {instruments.map((row, i) => (
        // Under one name stands what held of an instrument before and after its calibration.
        <Text
          key={`${row.name} ${i}`}
          style={styles.item}
        >{`${row.serial ? say(`${row.name} (serial ${row.serial})`) : row.name}: ${say(row.accuracy)}; ${say(row.calibration)}.`}</Text>
      ))}
      {instruments.length === 0 ? (
        <Text style={styles.item}>{say('No instrument is recorded for these items.')}</Text>
      ) : null}
    </>
  );
}

/** What was claimed, line by line. */
export function Claim({
  claim,
  words: { say },
}: {
  claim: ReportSnapshot['claim'];
  words: ReportWords;
}) {
  return (
    <>
      {claim.map((line) => (
        <Pair key={line.name} name={say(line.name)}>
          {[line.value, line.conditions]
            .filter((text) => text !== '')
            .map((text) => text.split(', ').map(say).join(', '))
            .join('; ')}
        </Pair>
      ))}
      {claim.length === 0 ? (
        <Text style={styles.item}>
          {say('No claim is recorded; figures stand without a verdict.')}
        </Text>
      ) : null}
    </>
  );
}
