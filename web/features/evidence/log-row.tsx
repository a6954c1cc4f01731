'use client';

import type { LogMapping } from '@dusk-tally/core/evidence';
import { formatDuration, formatWithUncertainty } from '@dusk-tally/core/units';
import { Check, TriangleAlert, X } from 'lucide-react';
import { Link } from '@/kit/link';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { CellPicker } from './cell-picker';
import type { CellChoice, QueuedLog } from './log-queue';
import { MappingPanel } from './mapping-panel';
import { Sketch } from './sketch';
import { TimeChoice } from './time-choice';
import { Input } from '@/kit/form-parts';

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
      {log.state === 'storing' && (
        <p className="text-[0.82rem] text-quiet">
          {log.progress < 1
            ? `Sending, ${Math.round(100 * log.progress)} %`
            : 'Sent; the server reads and stores it'}
        </p>
      )}
      {log.message && <p className="text-[0.82rem] text-quiet">{log.message}</p>}
    </>
  );
}

/** One dropped file: what was recognised, its cell, and what became of it. */
export function LogRow({
  log,
  cells,
  assign,
  remove,
  readAgain,
  despite,
}: {
  log: QueuedLog;
  cells: CellChoice[];
  assign: (cellId: number | null) => void;
  remove: () => void;
  readAgain: (shape: string, mapping: LogMapping) => void;
  /** Takes the run of a cell that may not go on a tester in, with a reason; null without the role. */
  despite: ((reason: string) => void) | null;
}) {
  const [reason, setReason] = useState('');
  const [mapping, setMapping] = useState(false);
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
        {log.state === 'ready' && <TimeChoice log={log} readAgain={readAgain} />}
        {log.sketch && ['ready', 'refused'].includes(log.state) && (
          <Button
            look="bare"
            className="-ml-3.5 min-h-7 py-0 text-[0.82rem] underline"
            aria-expanded={mapping}
            onClick={() => setMapping(!mapping)}
          >
            {log.state === 'refused' ? 'Assign its columns by hand' : 'Columns …'}
          </Button>
        )}
        {log.gated && log.state === 'failed' && despite && (
          <form
            className="mt-1 flex flex-wrap gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              if (reason.trim().length >= 3) despite(reason.trim());
            }}
          >
            <Input
              className="w-72"
              aria-label={`Why ${log.file.name} is taken in all the same`}
              placeholder="why it is taken in all the same"
              value={reason}
              onChange={(event) => setReason(event.target.value)}
            />
            <Button type="submit">Take it in with this reason</Button>
          </form>
        )}
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
      {mapping && log.sketch && (
        <div className="order-last col-span-full">
          <MappingPanel
            sketch={log.sketch}
            fileName={log.file.name}
            done={(assigned) => {
              setMapping(false);
              readAgain(log.sketch!.shape, assigned);
            }}
          />
        </div>
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
