import { decodeLog } from './decode';
import type { Dialect } from './dialect';
import { recogniseColumns } from './roles';
import { findTable } from './find-table';
import { LogRefusal } from './refusal';
import { splitLine } from './sampled-lines';

/** The rows of one channel of a long table, with the header above them. */
export interface ChannelRows {
  /** As the file names it. */
  channel: string;
  bytes: Uint8Array;
}

/** Words of a column that names the channel a row is of. */
const CHANNEL =
  /^(channel|chan|ch|channel ?(no|number|nr|id|index)|kanal|kanal ?(nr|nummer)|canal|voie|canale|kanaal|slot|port|bay|platz)$/;
/** A file holds no more channels than this. */
const MOST_CHANNELS = 256;
const NEWLINE = 10;

/** Position of the column that names a row’s channel; −1 without one. */
export const channelColumn = (header: readonly string[]): number =>
  header.findIndex((cell) =>
    CHANNEL.test(
      cell
        .trim()
        .toLowerCase()
        .replace(/[_\-.:#/]+/g, ' ')
        .trim(),
    ),
  );

/**
 * The channels of one long table (handbook, chapter 3): each becomes a log of its own, its lines as they
 * stand. @returns empty where the log is of one.
 */
export function channelsInLog(raw: Uint8Array): ChannelRows[] {
  const log = decodeLog(raw);
  let table: ReturnType<typeof findTable>;
  try {
    table = findTable(log);
  } catch (error) {
    if (error instanceof LogRefusal) return [];
    throw error;
  }
  const { header, shape, lines, headerIndex, units } = table;
  const column = headerIndex < 0 ? -1 : channelColumn(header);
  // A voltage and a time must stand beside it; a column of one cell each is a wide table.
  if (column < 0 || !recogniseColumns(header, units).some(({ role }) => role === 'voltage'))
    return [];
  const { bytes } = log;
  const first = lines[shape.first]!.offset;
  const decoder = new TextDecoder(log.textEncoding);
  const spans = new Map<string, [number, number][]>();
  for (let at = first; at < bytes.length;) {
    const end = bytes.indexOf(NEWLINE, at) + 1 || bytes.length;
    const cells = splitLine(
      decoder.decode(bytes.subarray(at, end)),
      shape.delimiter,
      shape.collapse,
    );
    const channel = cells[column]?.trim() ?? '';
    if (channel !== '' && cells.length >= header.length - 1) {
      const own = spans.get(channel);
      const last = own?.[own.length - 1];
      if (last && last[1] === at) last[1] = end;
      else if (own) own.push([at, end]);
      else if (spans.size < MOST_CHANNELS) spans.set(channel, [[at, end]]);
      else return [];
    }
    at = end;
  }
  if (spans.size < 2) return [];
  const head = bytes.subarray(0, first);
  return [...spans]
    .sort(([a], [b]) => a.localeCompare(b, 'en', { numeric: true }))
    .map(([channel, own]) => {
      const size = own.reduce((sum, [from, to]) => sum + to - from, head.length);
      const joined = new Uint8Array(size);
      joined.set(head, 0);
      let at = head.length;
      for (const [from, to] of own) {
        joined.set(bytes.subarray(from, to), at);
        at += to - from;
      }
      return { channel, bytes: joined };
    });
}

/** Refuses a table of several channels: each is a log of its own. */
export function refuseSeveralChannels(
  channels: readonly ChannelRows[],
  { headerRow }: Pick<Dialect, 'headerRow'>,
): never {
  const names = channels.map(({ channel }) => channel);
  throw new LogRefusal({
    code: 'several-channels',
    message: `Row ${headerRow}: the file holds ${names.length} channels (${names.slice(0, 8).join(', ')}${names.length > 8 ? ', …' : ''}). Expected one cell’s log; take its channels in one by one.`,
    row: headerRow,
  });
}
