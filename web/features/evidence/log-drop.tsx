'use client';

import { FileUp } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { Clamping } from '@dusk-tally/core/chemistry';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { typedNumber } from '@/kit/typed-number';
import { type QueuedLog, type QueueSettings, useLogQueue } from './log-queue';
import { type FoundLead, LeadSpots } from './lead-spots';
import { LogRow } from './log-row';
import { Label } from '@/kit/form-parts';
import { Choice, Option } from '@/kit/choice';
import { useFileDrop } from '@/kit/file-drop';
import { NumberInput } from '@/kit/quantity-field';

const countOf = (logs: readonly QueuedLog[], state: QueuedLog['state']) =>
  logs.filter((log) => log.state === state).length;

/** What the logs were made with, as typed. */
function useTester() {
  const [channel, setChannel] = useState('');
  const [ambient, setAmbient] = useState('');
  const [clamping, setClamping] = useState<Clamping | ''>('');
  const [lead, setLead] = useState('');
  const [spots, setSpots] = useState<FoundLead | null>(null);
  /** As the logs are stored with it, or what is wrong. */
  const read = (): Parameters<ReturnType<typeof useLogQueue>['store']>[1] | { problem: string } => {
    const leadMohm = typedNumber(lead);
    if (Number.isNaN(leadMohm))
      return { problem: `Lead resistance: expected a number in mΩ; found “${lead}”.` };
    const ambientC = typedNumber(ambient);
    if (Number.isNaN(ambientC))
      return { problem: `Room: expected a number in °C; found “${ambient}”.` };
    return {
      channelId: channel ? Number(channel) : null,
      leadMohm,
      leadUncertaintyMohm:
        spots && leadMohm === Number(spots.mohm.toPrecision(4))
          ? spots.standardUncertaintyMohm
          : null,
      ambientC,
      clamping: clamping || null,
    };
  };
  return {
    ...{ channel, setChannel, ambient, setAmbient, lead, setLead, setSpots },
    ...{ clamping, setClamping, read },
  };
}

function TesterFields({
  tester: { channel, setChannel, ambient, setAmbient, lead, setLead, setSpots, ...held },
  channels,
  areFlat,
}: {
  tester: ReturnType<typeof useTester>;
  channels: readonly { id: number; title: string }[];
  areFlat: boolean;
}) {
  return (
    <>
      <Label text="Tested with">
        <Choice className="min-w-56" value={channel} onValue={(next) => setChannel(next)}>
          <Option value="">A tester not described</Option>
          {channels.map((row) => (
            <Option key={row.id} value={row.id}>
              {row.title}
            </Option>
          ))}
        </Choice>
      </Label>
      <div className="w-72">
        <Label text="Lead resistance, two-wire / mΩ">
          <NumberInput
            quantity="resistanceMohm"
            text={lead}
            onText={(next) => setLead(next)}
            placeholder="voltage read at the cell"
          />
        </Label>
        <LeadSpots
          onFound={(found) => {
            setSpots(found);
            setLead(String(Number(found.mohm.toPrecision(4))));
          }}
        />
      </div>
      <Label text="Room / °C" className="w-32">
        <NumberInput
          quantity="temperatureC"
          text={ambient}
          onText={(next) => setAmbient(next)}
          placeholder="not read"
        />
      </Label>
      {areFlat && (
        <Label text="Cells were held">
          <Choice
            className="min-w-44"
            value={held.clamping}
            onValue={(next) => held.setClamping(next as Clamping | '')}
          >
            <Option value="">not recorded</Option>
            <Option value="fixture">in a fixture</Option>
            <Option value="free">free</Option>
          </Choice>
        </Label>
      )}
    </>
  );
}

/** Where files are dropped. */
function DropZone({
  drop: { zone, input, open, over },
  isFirst,
}: {
  drop: ReturnType<typeof useFileDrop>;
  isFirst: boolean;
}) {
  return (
    <div
      {...zone}
      className={`flex flex-wrap items-center gap-4 rounded-md border-2 border-dashed p-5 ${over ? 'border-ember bg-ember-wash' : 'border-strong-rule bg-sheet'}`}
    >
      <FileUp size={26} className="text-quiet" aria-hidden />
      <p className="flex-1">
        Drop the testers’ log files here.{' '}
        <span className="text-quiet">
          CSV or TSV in any usual dialect, a ZIP of them or an XLSX workbook; nothing is stored
          before you have seen it.
        </span>
      </p>
      {input}
      <Button look={isFirst ? 'primary' : 'plain'} onClick={open}>
        Choose files
      </Button>
    </div>
  );
}

/** How many are stored, refused and without a cell. */
function Summary({
  logs,
  matched,
  ready,
}: Record<'logs' | 'matched' | 'ready', readonly QueuedLog[]>) {
  const twice = matched.length !== new Set(matched.map((log) => log.cellId)).size;
  const refused = countOf(logs, 'refused') + countOf(logs, 'failed');
  return (
    <p className="text-quiet" role="status" data-testid="log-summary">
      {[
        `${logs.length} ${logs.length === 1 ? 'file' : 'files'}`,
        countOf(logs, 'stored') && `${countOf(logs, 'stored')} stored`,
        refused > 0 && `${refused} not taken`,
        ready.length - matched.length > 0 && `${ready.length - matched.length} without a cell`,
      ]
        .filter(Boolean)
        .join(', ')}
      .{twice && ' Two logs name the same cell; both will be kept, the later one counts.'}
    </p>
  );
}

/** Logs in: drop, look, match, store. */
export function LogDrop({
  channels,
  mayLead,
  areFlat,
  ...settings
}: QueueSettings & {
  channels: { id: number; title: string }[];
  mayLead: boolean;
  /** Cells one may clamp: prismatic ones and pouches. */
  areFlat: boolean;
}) {
  const router = useRouter();
  const queue = useLogQueue(settings);
  const drop = useFileDrop({
    label: 'Log files',
    testId: 'log-input',
    onFiles: (files) => void queue.add(files),
  });
  const tester = useTester();
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const { logs, cells } = { logs: queue.logs, cells: settings.cells };
  const ready = logs.filter(
    (log) => (log.state === 'ready' || log.state === 'failed') && log.preview,
  );
  const matched = ready.filter((log) => log.cellId !== null);

  const store = async () => {
    const how = tester.read();
    if ('problem' in how) return setProblem(how.problem);
    setProblem(null);
    setBusy(true);
    await queue.store(matched, how);
    setBusy(false);
    router.refresh();
  };

  return (
    <div className="space-y-4">
      <DropZone drop={drop} isFirst={logs.length === 0} />
      {logs.length > 0 && (
        <section className="panel p-4">
          <div className="mb-3 flex flex-wrap items-end gap-4">
            <TesterFields tester={tester} channels={channels} areFlat={areFlat} />
            <div className="ml-auto flex gap-2">
              {busy ? (
                <Button onClick={queue.cancel}>Cancel</Button>
              ) : (
                countOf(logs, 'stored') > 0 && (
                  <Button look="bare" onClick={queue.clearStored}>
                    Clear stored
                  </Button>
                )
              )}
              <Button look="primary" disabled={busy || matched.length === 0} onClick={store}>
                {busy
                  ? `Storing, ${countOf(logs, 'stored')} done`
                  : `Store ${matched.length} ${matched.length === 1 ? 'log' : 'logs'}`}
              </Button>
            </div>
          </div>
          <Summary logs={logs} matched={matched} ready={ready} />
          {problem && <Problem>{problem}</Problem>}
          <ul className="mt-2">
            {logs.map((log) => (
              <LogRow
                key={log.id}
                log={log}
                cells={cells}
                assign={(cellId) => queue.assign(log.id, cellId)}
                remove={() => queue.remove(log.id)}
                readAgain={queue.readAgain}
                despite={mayLead ? (reason) => queue.retryDespite(log.id, reason) : null}
              />
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}
