'use client';

import { formatDuration, formatWithUncertainty } from '@dusk-tally/core/units';
import { Check, FileUp, TriangleAlert, X } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { type DragEvent, useRef, useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { typedNumber } from '../arrivals/claim-draft';
import { CellPicker } from './cell-picker';
import { type CellChoice, type QueuedLog, type QueueSettings, useLogQueue } from './log-queue';
import { Sketch } from './sketch';

const SECTION_WORDS: Record<string, string> = {
  rest: 'rest',
  charge: 'charge',
  discharge: 'discharge',
};

function SectionsLine({ log }: { log: QueuedLog }) {
  const sections = log.preview?.sections ?? [];
  const shown = sections
    .slice(0, 6)
    .map(
      (section) => `${SECTION_WORDS[section.kind]} ${formatDuration(section.toS - section.fromS)}`,
    );
  return (
    <>
      {shown.join(', ')}
      {sections.length > 6 ? ` and ${sections.length - 6} more` : ''}
    </>
  );
}

function Result({ log }: { log: QueuedLog }) {
  const { preview } = log;
  if (log.state === 'refused' || log.state === 'failed') {
    return (
      <p className="text-missed" role="alert">
        <TriangleAlert size={15} className="mr-1 inline" aria-hidden />
        {log.message}{' '}
        {log.link && (
          <Link href={log.link} className="underline">
            See it there
          </Link>
        )}
      </p>
    );
  }
  if (!preview)
    return (
      <p className="text-quiet">
        {log.state === 'reading'
          ? `Reading, ${Math.round(100 * log.progress)} %`
          : 'Waiting its turn'}
      </p>
    );
  const shown = preview.capacity
    ? formatWithUncertainty(preview.capacity.value, preview.capacity.U)
    : null;
  return (
    <>
      <p>
        {shown && (
          <span className="font-medium tabular-nums">
            {preview.capacity!.bound === 'atLeast' ? 'at least ' : ''}
            {shown.value} ± {shown.uncertainty} Ah
          </span>
        )}
        {!shown && <span className="text-quiet">no discharge in it</span>}
        <span className="ml-2 text-[0.82rem] text-quiet">
          {preview.rows} rows: <SectionsLine log={log} />
        </span>
      </p>
      {preview.findings.map((finding) => (
        <p key={finding} className="text-[0.82rem] text-doubt">
          {finding}
        </p>
      ))}
      {log.message && <p className="text-[0.82rem] text-quiet">{log.message}</p>}
    </>
  );
}

function LogRow({
  log,
  cells,
  assign,
  remove,
}: {
  log: QueuedLog;
  cells: CellChoice[];
  assign: (cellId: number | null) => void;
  remove: () => void;
}) {
  return (
    <li
      className="grid grid-cols-[120px_minmax(0,1fr)_11rem_2.5rem] items-center gap-3 border-b border-rule py-2"
      data-testid="log-row"
    >
      {log.preview ? <Sketch bytes={log.preview.curve} /> : <div className="h-12 bg-wash" />}
      <div className="min-w-0">
        <p className="truncate font-medium" title={log.file.name}>
          {log.file.name}
        </p>
        <Result log={log} />
      </div>
      {log.state === 'stored' ? (
        <Link href={log.link!} className="inline-flex items-center gap-1 text-met hover:underline">
          <Check size={16} aria-hidden /> stored in{' '}
          {cells.find((cell) => cell.id === log.cellId)?.number}
        </Link>
      ) : log.state === 'refused' ? (
        <span className="text-quiet">not stored</span>
      ) : log.state === 'storing' ? (
        <span className="text-quiet">Storing …</span>
      ) : (
        <CellPicker
          cells={cells}
          value={log.cellId}
          onChange={assign}
          label={`Cell for ${log.file.name}`}
        />
      )}
      {log.state !== 'stored' && log.state !== 'storing' && (
        <Button
          look="bare"
          className="px-2"
          aria-label={`Leave out ${log.file.name}`}
          onClick={remove}
        >
          <X size={16} />
        </Button>
      )}
    </li>
  );
}

/** Logs in: drop, look, match, store. */
export function LogDrop({
  instruments,
  ...settings
}: QueueSettings & { instruments: { id: number; name: string }[] }) {
  const router = useRouter();
  const queue = useLogQueue(settings);
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const [instrument, setInstrument] = useState('');
  const [lead, setLead] = useState('');
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const { logs, cells } = { logs: queue.logs, cells: settings.cells };
  const ready = logs.filter(
    (log) => (log.state === 'ready' || log.state === 'failed') && log.preview,
  );
  const matched = ready.filter((log) => log.cellId !== null);
  const twice = matched.length !== new Set(matched.map((log) => log.cellId)).size;
  const count = (state: QueuedLog['state']) => logs.filter((log) => log.state === state).length;

  const onDrop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    queue.add([...event.dataTransfer.files]);
  };
  const store = async () => {
    const leadMohm = typedNumber(lead);
    if (Number.isNaN(leadMohm))
      return setProblem(`Lead resistance: expected a number in mΩ; found “${lead}”.`);
    setProblem(null);
    setBusy(true);
    await queue.store(matched, instrument ? Number(instrument) : null, leadMohm);
    setBusy(false);
    router.refresh();
  };

  return (
    <div className="space-y-4">
      <div
        onDragOver={(event) => {
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={onDrop}
        className={`flex flex-wrap items-center gap-4 rounded-md border-2 border-dashed p-5 ${over ? 'border-ember bg-ember-wash' : 'border-strong-rule bg-sheet'}`}
      >
        <FileUp size={26} className="text-quiet" aria-hidden />
        <p className="flex-1">
          Drop the testers’ log files here.{' '}
          <span className="text-quiet">
            CSV or TSV in any usual dialect; nothing is stored before you have seen it.
          </span>
        </p>
        <input
          ref={input}
          type="file"
          multiple
          hidden
          data-testid="log-input"
          onChange={(event) => {
            queue.add([...(event.target.files ?? [])]);
            event.target.value = '';
          }}
        />
        <Button
          look={logs.length === 0 ? 'primary' : 'plain'}
          onClick={() => input.current?.click()}
        >
          Choose files
        </Button>
      </div>
      {logs.length > 0 && (
        <section className="panel p-4">
          <div className="mb-3 flex flex-wrap items-end gap-4">
            <label>
              <span className="mb-1 block text-quiet">Tested with</span>
              <select
                className="field min-w-56"
                value={instrument}
                onChange={(event) => setInstrument(event.target.value)}
              >
                <option value="">A tester not described</option>
                {instruments.map((row) => (
                  <option key={row.id} value={row.id}>
                    {row.name}
                  </option>
                ))}
              </select>
            </label>
            <label className="w-72">
              <span className="mb-1 block text-quiet">Lead resistance, two-wire / mΩ</span>
              <input
                className="field"
                inputMode="decimal"
                placeholder="voltage read at the cell"
                value={lead}
                onChange={(event) => setLead(event.target.value)}
              />
            </label>
            <div className="ml-auto flex gap-2">
              {busy ? (
                <Button onClick={queue.cancel}>Cancel</Button>
              ) : (
                count('stored') > 0 && (
                  <Button look="bare" onClick={queue.clearStored}>
                    Clear stored
                  </Button>
                )
              )}
              <Button look="primary" disabled={busy || matched.length === 0} onClick={store}>
                {busy
                  ? `Storing, ${count('stored')} done`
                  : `Store ${matched.length} ${matched.length === 1 ? 'log' : 'logs'}`}
              </Button>
            </div>
          </div>
          <p className="text-quiet" role="status" data-testid="log-summary">
            {[
              `${logs.length} ${logs.length === 1 ? 'file' : 'files'}`,
              count('stored') && `${count('stored')} stored`,
              count('refused') + count('failed') > 0 &&
                `${count('refused') + count('failed')} not taken`,
              ready.length - matched.length > 0 &&
                `${ready.length - matched.length} without a cell`,
            ]
              .filter(Boolean)
              .join(', ')}
            .{twice && ' Two logs name the same cell; both will be kept, the later one counts.'}
          </p>
          {problem && <Problem>{problem}</Problem>}
          <ul className="mt-2">
            {logs.map((log) => (
              <LogRow
                key={log.id}
                log={log}
                cells={cells}
                assign={(cellId) => queue.assign(log.id, cellId)}
                remove={() => queue.remove(log.id)}
              />
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}
