/** An entry of a calendar file. */
export interface CalendarEntry {
  /** Stable name: the same entry again replaces the one before. */
  uid: string;
  start: Date;
  end: Date;
  title: string;
  description: string;
}

const stamp = (date: Date) => `${date.toISOString().replace(/[-:]/g, '').slice(0, 15)}Z`;
const escaped = (text: string) =>
  text.replace(/\\/g, '\\\\').replace(/;/g, '\\;').replace(/,/g, '\\,').replace(/\r?\n/g, '\\n');

/** Lines of at most 75 octets, continued behind a blank (RFC 5545, 3.1). */
function folded(line: string): string {
  const encoder = new TextEncoder();
  const parts: string[] = [];
  let part = '';
  let octets = 0;
  for (const character of line) {
    const size = encoder.encode(character).length;
    if (octets + size > (parts.length === 0 ? 75 : 74)) {
      parts.push(part);
      [part, octets] = ['', 0];
    }
    part += character;
    octets += size;
  }
  return [...parts, part].join('\r\n ');
}

/** A calendar file (RFC 5545) of entries. @param made when it was made. */
export function calendarFile(name: string, entries: readonly CalendarEntry[], made: Date): string {
  const lines = [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Dusk Tally//Bench//EN',
    'CALSCALE:GREGORIAN',
    `X-WR-CALNAME:${escaped(name)}`,
    ...entries.flatMap((entry) => [
      'BEGIN:VEVENT',
      `UID:${escaped(entry.uid)}`,
      `DTSTAMP:${stamp(made)}`,
      `DTSTART:${stamp(entry.start)}`,
      `DTEND:${stamp(entry.end)}`,
      `SUMMARY:${escaped(entry.title)}`,
      `DESCRIPTION:${escaped(entry.description)}`,
      'END:VEVENT',
    ]),
    'END:VCALENDAR',
  ];
  return `${lines.map(folded).join('\r\n')}\r\n`;
}
