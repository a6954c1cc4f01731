'use client';

import { FileUp } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
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

/** Logs in: drop, look, match, store. */
export function LogDrop({
  channels,
  mayLead,
  ...settings
}: QueueSettings & { channels: { id: number; title: string }[]; mayLead: boolean }) {
  const router = useRouter();
  const queue = useLogQueue(settings);
  const { zone, input, open, over } = useFileDrop({
    label: 'Log files',
    testId: 'log-input',
    onFiles: (files) => void queue.add(files),
  });
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
        <Button look={logs.length === 0 ? 'primary' : 'plain'} onClick={open}>
          Choose files
        </Button>
      </div>
      {logs.length > 0 && (
        <section className="panel p-4">
          <div className="mb-3 flex flex-wrap items-end gap-4">
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
