'use client';

import { WHAT_FOLLOWS } from '@dusk-tally/core/arrivals';
import { Button } from '@/kit/button';
import { Input } from '@/kit/form-parts';
import { FINDING_KEYS, type palette } from './inspection-marks';

const SEVERITY_WORDS = { stop: 'Stop', serious: 'Serious', note: 'Note' };
const TONE = { stop: 'text-missed', serious: 'text-doubt', note: '' };
/** So many picked cells are named. */
const NAMED = 6;

/** What can be found on a cell, worst first; a press marks the picked ones. */
export function FoundPanel({
  groups,
  chosen,
  note,
  torque,
  onNote,
  onFind,
}: {
  groups: ReturnType<typeof palette>;
  chosen: readonly string[];
  note: string;
  /** What the data sheet says of the terminals, in words. */
  torque: string;
  onNote: (note: string) => void;
  onFind: (code: string) => void;
}) {
  const more = chosen.length - NAMED;
  return (
    <section
      className="panel sticky top-14 max-h-[calc(100dvh-4.5rem)] self-start overflow-auto p-3"
      aria-label="What was found"
      tabIndex={0}
    >
      <div className="space-y-2">
        <p className="font-semibold">
          {chosen.length === 0
            ? 'Pick cells first, then press what was found'
            : `Found on ${chosen.slice(0, NAMED).join(', ')}${more > 0 ? ` and ${more} more` : ''}:`}
        </p>
        <label className="block">
          <span className="sr-only">Note to the finding</span>
          <Input
            placeholder="a note to it, if any"
            value={note}
            onChange={(event) => onNote(event.target.value)}
          />
        </label>
      </div>
      <div className="mt-3 space-y-4">
        {groups.map(({ severity, kinds }) => (
          <div key={severity}>
            <h2 className={`font-semibold ${TONE[severity]}`}>{SEVERITY_WORDS[severity]}</h2>
            <p className="mb-1.5 text-[0.82rem] leading-tight text-quiet">
              {WHAT_FOLLOWS[severity]}
            </p>
            <div className="flex flex-col gap-1.5">
              {kinds.map((kind) => (
                <Button
                  key={kind.code}
                  className="min-h-11 !justify-between px-2.5 text-left"
                  disabled={chosen.length === 0}
                  onClick={() => onFind(kind.code)}
                >
                  {kind.words}
                  <kbd className="text-quiet">{FINDING_KEYS[kind.code]?.toUpperCase()}</kbd>
                </Button>
              ))}
            </div>
          </div>
        ))}
      </div>
      <p className="mt-3 text-quiet">{torque}</p>
    </section>
  );
}
