import { channelsInLog, LogRefusal } from '@dusk-tally/core/evidence';
import { unzipSync } from 'fflate';

/** Asks for the logs inside an archive or a workbook. */
export interface UnpackRequest {
  id: number;
  /** A table of several channels is taken apart into one log each; no archive. */
  isTable?: boolean;
  name: string;
  bytes: ArrayBuffer;
}

export type UnpackReply =
  | { id: number; ok: true; files: { name: string; bytes: Uint8Array<ArrayBuffer> }[] }
  | { id: number; ok: false; message: string };

/** Most that may come out of one archive, bytes and files. */
const MOST_BYTES = 600 * 1024 * 1024;
const MOST_FILES = 500;

const scope = self as unknown as {
  onmessage: (event: MessageEvent<UnpackRequest>) => void;
  postMessage: (reply: UnpackReply) => void;
};

const isLog = (name: string) =>
  /\.(csv|tsv|txt|log|jsonl|ndjson)(\.gz)?$/i.test(name) && !/(^|\/)(__MACOSX\/|\.)/.test(name);
const plainName = (name: string) => name.split('/').at(-1)!;

/** A value of a sheet as a log writes it. */
function cellText(value: unknown): string {
  if (value === null || value === undefined) return '';
  if (value instanceof Date) return value.toISOString();
  if (typeof value === 'object') {
    const held = value as { result?: unknown; text?: unknown; richText?: { text: string }[] };
    if (held.richText) return cellText(held.richText.map((part) => part.text).join(''));
    return cellText(held.result ?? held.text ?? '');
  }
  const text = String(value as string | number | boolean);
  return /[",\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}

/** Every sheet with rows in it as a CSV log. */
async function sheetsOf(name: string, bytes: ArrayBuffer): Promise<UnpackReply & { ok: true }> {
  const { default: exceljs } = await import('exceljs');
  const workbook = new exceljs.Workbook();
  await workbook.xlsx.load(bytes);
  const stem = name.replace(/\.\w+$/, '');
  const sheets = workbook.worksheets.filter((sheet) => sheet.actualRowCount > 1);
  const files = sheets.map((sheet) => {
    const lines: string[] = [];
    sheet.eachRow({ includeEmpty: false }, (row) => {
      const values = row.values as unknown[];
      lines.push(Array.from(values.slice(1), cellText).join(','));
    });
    return {
      name: sheets.length === 1 ? `${stem}.csv` : `${stem} ${sheet.name}.csv`,
      bytes: new TextEncoder().encode(`${lines.join('\n')}\n`),
    };
  });
  return { id: 0, ok: true, files };
}

/** Each channel of a long table as a log of its own; the table itself where it is of one. */
function channelsOf({ id, name, bytes }: UnpackRequest): UnpackReply {
  const stem = name.replace(/(\.\w+){1,2}$/, '');
  try {
    const files = channelsInLog(new Uint8Array(bytes)).map(({ channel, bytes: own }) => ({
      name: `${stem} channel ${channel}.csv`,
      bytes: new Uint8Array(own),
    }));
    return { id, ok: true, files };
  } catch (error) {
    if (error instanceof LogRefusal) return { id, ok: true, files: [] };
    throw error;
  }
}

async function unpack(request: UnpackRequest): Promise<UnpackReply> {
  const { id, name, bytes } = request;
  if (request.isTable) return channelsOf(request);
  const refuse = (message: string): UnpackReply => ({ id, ok: false, message });
  const seen: string[] = [];
  let isWorkbook = false;
  let total = 0;
  try {
    const found = unzipSync(new Uint8Array(bytes), {
      filter: ({ name: entry, originalSize }) => {
        if (entry === 'xl/workbook.xml') isWorkbook = true;
        if (!isLog(entry)) return false;
        seen.push(entry);
        total += originalSize;
        return total <= MOST_BYTES && seen.length <= MOST_FILES;
      },
    });
    if (isWorkbook) {
      const sheets = await sheetsOf(name, bytes);
      return sheets.files.length > 0
        ? { ...sheets, id }
        : refuse(`${name}: no sheet holds a table. Expected a header row and rows of readings.`);
    }
    if (total > MOST_BYTES || seen.length > MOST_FILES)
      return refuse(
        `${name}: expected at most ${MOST_FILES} logs and ${MOST_BYTES / 1024 / 1024} MB in one archive; it holds ${seen.length}, ${Math.round(total / 1024 / 1024)} MB.`,
      );
    if (seen.length === 0)
      return refuse(`${name}: no log is in it. Expected CSV or TSV files, or an XLSX workbook.`);
    const files = Object.entries(found).map(([entry, content]) => ({
      name: plainName(entry),
      bytes: new Uint8Array(content),
    }));
    return { id, ok: true, files };
  } catch {
    return refuse(`${name}: the archive is damaged or locked. Expected a plain ZIP or XLSX file.`);
  }
}

scope.onmessage = (event) => void unpack(event.data).then((reply) => scope.postMessage(reply));
