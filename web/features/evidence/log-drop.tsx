'use client';

import { FileUp } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { type DragEvent, useRef, useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { typedNumber } from '@/kit/typed-number';
import { type QueuedLog, type QueueSettings, useLogQueue } from './log-queue';
import { type FoundLead, LeadSpots } from './lead-spots';
import { LogRow } from './log-row';

/** Logs in: drop, look, match, store. */
export function LogDrop({
  channels,
  mayLead,
  ...settings
}: QueueSettings & { channels: { id: number; title: string }[]; mayLead: boolean }) {
  const router = useRouter();
  const queue = useLogQueue(settings);
  const input = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const [channel, setChannel] = useState('');
  const [ambient, setAmbient] = useState('');
  const [lead, setLead] = useState('');
  const [spots, setSpots] = useState<FoundLead | null>(null);
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
    void queue.add([...event.dataTransfer.files]);
  };
  const store = async () => {
    const leadMohm = typedNumber(lead);
    if (Number.isNaN(leadMohm))
      return setProblem(`Lead resistance: expected a number in mΩ; found “${lead}”.`);
    const ambientC = typedNumber(ambient);
    if (Number.isNaN(ambientC))
      return setProblem(`Room: expected a number in °C; found “${ambient}”.`);
    setProblem(null);
    setBusy(true);
    await queue.store(matched, {
      channelId: channel ? Number(channel) : null,
      leadMohm,
      leadUncertaintyMohm:
        spots && leadMohm === Number(spots.mohm.toPrecision(4))
          ? spots.standardUncertaintyMohm
          : null,
      ambientC,
    });
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
            CSV or TSV in any usual dialect, a ZIP of them or an XLSX workbook; nothing is stored
            before you have seen it.
          </span>
        </p>
        <input
          ref={input}
          type="file"
          multiple
          hidden
          data-testid="log-input"
          onChange={(event) => {
            void queue.add([...(event.target.files ?? [])]);
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
                value={channel}
                onChange={(event) => setChannel(event.target.value)}
              >
                <option value="">A tester not described</option>
                {channels.map((row) => (
                  <option key={row.id} value={row.id}>
                    {row.title}
                  </option>
                ))}
              </select>
            </label>
            <div className="w-72">
              <label>
                <span className="mb-1 block text-quiet">Lead resistance, two-wire / mΩ</span>
                <input
                  className="field"
                  inputMode="decimal"
                  placeholder="voltage read at the cell"
                  value={lead}
                  onChange={(event) => setLead(event.target.value)}
                />
              </label>
              <LeadSpots
                onFound={(found) => {
                  setSpots(found);
                  setLead(String(Number(found.mohm.toPrecision(4))));
                }}
              />
            </div>
            <label className="w-32">
              <span className="mb-1 block text-quiet">Room / °C</span>
              <input
                className="field"
                inputMode="decimal"
                placeholder="not read"
                value={ambient}
                onChange={(event) => setAmbient(event.target.value)}
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
