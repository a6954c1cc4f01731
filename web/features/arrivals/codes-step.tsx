'use client';

import type { CodesView, ScanResult } from '@dusk-tally/lab/arrivals';
import { useEffect, useRef, useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { useCalmRefresh } from '@/lib/use-calm-refresh';
import { useSendQueue } from '@/lib/use-send-queue';
import { OutboxLine } from '@/kit/outbox-line';
import { CodeCamera } from './code-camera';
import { useScans } from '@/kit/scan-listener';
import { Input } from '@/kit/form-parts';
import { CodeList, CodeFacts } from './code-list';

interface HeldScan {
  clientKey: string;
  text: string;
  cellId: number | null;
  copied: boolean;
  mayAdd: boolean;
}

/** The same code again within this time is one scan sent twice, ms. */
const TWICE_MS = 1000;

/** A code as it was scanned, and what the lab asks about it. */
interface Asked {
  scan: HeldScan;
  result: ScanResult;
}

/** Scans on their way to the lab, and what it says of them. */
function useScanning(lotId: number) {
  const refresh = useCalmRefresh();
  const [told, setTold] = useState<ScanResult | null>(null);
  const [asked, setAsked] = useState<Asked | null>(null);
  const [target, setTarget] = useState<number | null>(null);
  const [refusal, setRefusal] = useState<string | null>(null);
  const last = useRef({ code: '', at: 0 });
  const { state, push, restore } = useSendQueue<HeldScan>({
    what: `codes:${lotId}`,
    url: `/api/lots/${lotId}/codes`,
    pack: ([first]) => ({ batch: [first!], body: first }),
    onReply: ([scan], data) => {
      const result = data as ScanResult;
      setRefusal(null);
      if (result.outcome === 'asks') setAsked({ scan: scan!, result });
      else {
        setTold(result);
        setTarget(null);
        refresh();
      }
    },
    onRefused: (_scan, message) => setRefusal(message),
  });
  useEffect(() => {
    restore();
  }, [restore]);

  const scan = (code: string, how: Partial<HeldScan> = {}) => {
    const trimmed = code.trim();
    if (trimmed === '') return;
    const now = Date.now();
    const twice =
      how.copied !== true &&
      how.mayAdd !== true &&
      last.current.code === trimmed &&
      now - last.current.at < TWICE_MS;
    last.current = { code: trimmed, at: now };
    if (twice) {
      setRefusal(null);
      return setTold((before) =>
        before ? { ...before, sentence: 'Scanned twice within a second; taken once.' } : before,
      );
    }
    setAsked(null);
    push([
      {
        clientKey: crypto.randomUUID(),
        text: trimmed,
        cellId: target,
        copied: false,
        mayAdd: false,
        ...how,
      },
    ]);
  };
  useScans((code) => {
    scan(code);
    return null;
  });
  return { state, scan, told, asked, forget: () => setAsked(null), target, setTarget, refusal };
}

/** What the last scan was, and what its code tells. */
function Told({ told: { reading, outcome, sentence } }: { told: ScanResult }) {
  const produced =
    reading.ok && reading.producedFrom
      ? `, produced ${reading.producedFrom}${reading.producedUntil !== reading.producedFrom ? ` to ${reading.producedUntil}` : ''}`
      : '';
  return (
    <div
      role="status"
      className={`mt-3 border-l-4 pl-3 ${reading.ok && outcome !== 'copied' ? 'border-met' : 'border-doubt'}`}
      data-testid="scan-told"
    >
      <p className="font-medium">{sentence}</p>
      <p className="text-quiet">
        {reading.ok
          ? `${reading.scheme}${produced}${reading.serial ? `, serial ${reading.serial}` : ''}.`
          : reading.message}
      </p>
    </div>
  );
}

/** A scan that may mean two things: the person says which. */
function ScanAsked({
  asked: { scan: asked, result },
  view,
  goal,
  scan,
  forget,
}: {
  asked: Asked;
  view: CodesView;
  /** Cell the next code would go to. */
  goal: string | null;
  scan: (code: string, how: Partial<HeldScan>) => void;
  forget: () => void;
}) {
  const { cell } = result;
  const nextFree = cell ? view.cells.find(({ code, id }) => !code && id !== cell.id) : undefined;
  return (
    <div role="alert" className="mt-3 rounded-sm border-2 border-doubt bg-wash p-3">
      <p className="font-medium">{result.sentence}</p>
      <div className="mt-2 flex flex-wrap gap-2">
        {cell ? (
          <>
            <Button className="min-h-11" onClick={forget}>
              The same cell again
            </Button>
            <Button
              className="min-h-11"
              onClick={() =>
                scan(asked.text, { copied: true, cellId: asked.cellId ?? nextFree?.id ?? null })
              }
            >
              A copied label on {goal ?? 'another cell'}
            </Button>
          </>
        ) : (
          <>
            <Button className="min-h-11" onClick={() => scan(asked.text, { mayAdd: true })}>
              Yes, add a cell to the lot
            </Button>
            <Button className="min-h-11" onClick={forget}>
              No
            </Button>
          </>
        )}
      </div>
    </div>
  );
}

/** Codes scanned one after the other, each to the next cell without one, and what they tell. */
export function CodesStep({ lotId, view }: { lotId: number; view: CodesView }) {
  const field = useRef<HTMLInputElement>(null);
  const [text, setText] = useState('');
  const { state, scan, told, asked, forget, target, setTarget, refusal } = useScanning(lotId);
  const next = view.cells.find((cell) => !cell.code);
  const goal = target === null ? next : view.cells.find((cell) => cell.id === target);
  return (
    <div className="grid gap-5 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
      <div className="space-y-4">
        <section className="panel p-4">
          <form
            onSubmit={(event) => {
              event.preventDefault();
              scan(text);
              setText('');
              field.current?.focus();
            }}
          >
            <label>
              <span className="mb-1 block font-semibold">
                {goal ? `Scan the code of ${goal.number}` : 'Every cell carries a code'}
              </span>
              <span className="flex gap-2">
                <Input
                  ref={field}
                  data-codes
                  className="min-h-12 text-lg uppercase tabular-nums"
                  autoComplete="off"
                  autoFocus
                  spellCheck={false}
                  value={text}
                  onChange={(event) => setText(event.target.value)}
                />
                <Button type="submit" look="primary" className="min-h-12">
                  Take
                </Button>
              </span>
            </label>
          </form>
          <div className="mt-2">
            <CodeCamera onCode={(code) => scan(code)} />
          </div>
          {refusal && <Problem>{refusal}</Problem>}
          {told && !asked && <Told told={told} />}
          {asked && (
            <ScanAsked
              asked={asked}
              view={view}
              goal={goal?.number ?? null}
              scan={scan}
              forget={forget}
            />
          )}
          {told?.outcome === 'again' && told.cell && next && !asked && (
            <Button
              className="mt-2 min-h-11"
              onClick={() => scan(told.reading.code, { copied: true, cellId: next.id })}
            >
              It stands on {next.number} too: a copied label
            </Button>
          )}
          <OutboxLine state={state} one="scan" many="scans" />
        </section>
        <CodeList view={view} target={target} onTarget={setTarget} />
      </div>
      <CodeFacts view={view} />
    </div>
  );
}

/** Every cell with its code and what it says; a cell without one can be made the next. */
