import { centsText } from '@dusk-tally/core/money';
import { formatNumber } from '@dusk-tally/core/units';
import type { DisputeRow, LetterNode } from '@dusk-tally/store';
import { REPORT_LANGUAGES, reportWords } from '../compute';
import type { DisputeFacts } from './facts';
import { groundLines } from './grounds';

type Language = keyof typeof REPORT_LANGUAGES;

const text = (words: string): LetterNode => ({ type: 'text', text: words });
const paragraph = (words: string): LetterNode => ({ type: 'paragraph', content: [text(words)] });
const list = (lines: readonly string[]): LetterNode => ({
  type: 'bulletList',
  content: lines.map((line) => ({ type: 'listItem', content: [paragraph(line)] })),
});

/** Facts of a letter, each already in words of its language. */
interface Facts {
  goods: string;
  orderedOn: string | null;
  receivedOn: string | null;
  facts: string[];
  short: { cells: number; tested: number; ah: string; amount: string } | null;
  /** Tested, of all. */
  tested: number;
  cells: number;
  /** Lines of the amount, where it is made of more than one. */
  lines: string[];
  ask: string;
  deadlineOn: string | null;
  lab: string;
  person: string;
}

const WORDS: Record<Language, (facts: Facts, remedy: DisputeRow['remedy']) => LetterNode[]> = {
  en: ({ goods, orderedOn, receivedOn, facts: found, short, ask, deadlineOn, ...more }, remedy) => [
    paragraph('Dear Sir or Madam,'),
    paragraph(
      `${orderedOn ? `on ${orderedOn} we ordered` : 'we ordered'} ${goods}${receivedOn ? `, received here on ${receivedOn}` : ''}. ${more.tested === 0 ? 'None is tested yet' : `We have tested ${more.tested === more.cells ? `all ${more.cells} cells` : `${more.tested} of ${more.cells} cells`}`}. They are not what was offered:`,
    ),
    list([
      ...found,
      ...(short
        ? [
            `${short.cells} of ${short.tested} tested cells lack ${short.ah} Ah together, worth ${short.amount} at your price per claimed Ah.`,
          ]
        : []),
    ]),
    paragraph(
      {
        partialRefund: `We are ready to keep the goods against a partial refund of ${ask}.`,
        return: `We ask you to take the goods back against a refund of ${ask}, and to tell us how they are to be sent.`,
        replace: `We ask for a replacement that holds what was offered, worth ${ask}.`,
      }[remedy],
    ),
    ...(more.lines.length > 1 ? [paragraph('The amount is made of:'), list(more.lines)] : []),
    paragraph(
      `How we measured, with which meters and how surely, cell by cell, is in the dispute file that goes with this letter.${deadlineOn ? ` The window for a dispute is open until ${deadlineOn}; please answer before then.` : ''}`,
    ),
    paragraph('With kind regards,'),
    paragraph(`${more.person}, ${more.lab}`),
  ],
  de: ({ goods, orderedOn, receivedOn, facts: found, short, ask, deadlineOn, ...more }, remedy) => [
    paragraph('Sehr geehrte Damen und Herren,'),
    paragraph(
      `${orderedOn ? `am ${orderedOn} bestellten wir` : 'wir bestellten'} ${goods}${receivedOn ? `, hier eingegangen am ${receivedOn}` : ''}. ${more.tested === 0 ? 'Geprüft ist noch keine Zelle' : `Wir haben ${more.tested === more.cells ? `alle ${more.cells} Zellen` : `${more.tested} von ${more.cells} Zellen`} geprüft`}. Sie sind nicht, was angeboten war:`,
    ),
    list([
      ...found,
      ...(short
        ? [
            `${short.cells} von ${short.tested} geprüften Zellen fehlen zusammen ${short.ah} Ah im Wert von ${short.amount} nach Ihrem Preis je zugesagter Ah.`,
          ]
        : []),
    ]),
    paragraph(
      {
        partialRefund: `Wir sind bereit, die Ware gegen eine Teilerstattung von ${ask} zu behalten.`,
        return: `Wir bitten Sie, die Ware gegen Erstattung von ${ask} zurückzunehmen und uns zu sagen, wie sie zu versenden ist.`,
        replace: `Wir bitten um Ersatz, der hält, was angeboten war, im Wert von ${ask}.`,
      }[remedy],
    ),
    ...(more.lines.length > 1
      ? [paragraph('Der Betrag setzt sich so zusammen:'), list(more.lines)]
      : []),
    paragraph(
      `Wie wir gemessen haben, mit welchen Messgeräten und wie sicher, steht Zelle für Zelle in der Akte zu diesem Schreiben.${deadlineOn ? ` Die Frist läuft bis ${deadlineOn}; bitte antworten Sie vorher.` : ''}`,
    ),
    paragraph('Mit freundlichen Grüßen'),
    paragraph(`${more.person}, ${more.lab}`),
  ],
};

const TITLES: Record<Language, (code: string) => string> = {
  en: (code) => `Complaint about ${code}`,
  de: (code) => `Reklamation zu ${code}`,
};

/** A letter drafted from what is known; a person reads and changes it before it goes out. */
export function draftedLetter(
  dispute: DisputeRow,
  { lot, verdict, books, deadlineOn }: DisputeFacts,
  from: { model: string; lab: string; person: string },
): { title: string; body: LetterNode } {
  const { say, number } = reportWords(dispute.language);
  const day = (on: string | null) => (on === null ? null : say(on));
  const { shortfall } = books;
  const amount = (cents: number) => `${number(centsText(cents))} ${lot.currency}`;
  const facts: Facts = {
    goods: `${lot.orderedQuantity ?? lot.quantity} × ${from.model}`,
    orderedOn: day(lot.orderedOn),
    receivedOn: day(lot.arrivedOn),
    facts: verdict.words.facts.map(({ text: fact }) => `${say(fact)}.`),
    short: shortfall && {
      cells: shortfall.cells,
      tested: books.units.tested,
      ah: number(formatNumber(shortfall.ah, 2)),
      amount: amount(shortfall.cents),
    },
    tested: books.units.tested,
    cells: books.units.cells,
    lines: groundLines(dispute, books).map(
      (line) => `${say(line.text)}: ${number(line.amount)} ${lot.currency}`,
    ),
    ask: amount(dispute.askCents),
    deadlineOn: day(deadlineOn),
    lab: from.lab,
    person: from.person,
  };
  return {
    title: TITLES[dispute.language](lot.code),
    body: { type: 'doc', content: WORDS[dispute.language](facts, dispute.remedy) },
  };
}
