import type { LogMapping, TimeUnit } from '@dusk-tally/core/evidence';
import { Button } from '@/kit/button';
import { keepMappingAct } from './acts';
import type { QueuedLog } from './log-queue';
import { Sketch } from './sketch';
import { useAct } from '@/kit/use-act';

const WORDS: Record<TimeUnit, string> = {
  ms: 'milliseconds',
  s: 'seconds',
  min: 'minutes',
  h: 'hours',
  d: 'days',
};

/** The columns as they were recognised, with what a person says of the time. */
function mappingWith(preview: NonNullable<QueuedLog['preview']>, unit: TimeUnit): LogMapping {
  return {
    columns: preview.columns.map(({ role, unit: own }) => ({
      role,
      unit: role === 'time' ? unit : own,
    })),
    positiveDischarges: null,
  };
}

/** Asks which of several readings of a bare time column is meant, each with the curve it gives. */
export function TimeChoice({
  log,
  readAgain,
}: {
  log: QueuedLog;
  readAgain: (shape: string, mapping: LogMapping) => void;
}) {
  const { run, busy, problem } = useAct();
  const { preview, sketch } = log;
  if (!preview || !sketch || preview.times.length < 2) return null;
  const choose = (unit: TimeUnit) => {
    const mapping = mappingWith(preview, unit);
    run(
      (key) => keepMappingAct({ shape: sketch.shape, fileName: log.file.name, mapping }, key),
      () => readAgain(sketch.shape, mapping),
    );
  };
  return (
    <fieldset className="mt-1 rounded-sm border border-doubt p-2" disabled={busy}>
      <legend className="px-1 font-medium text-doubt">Which time is meant?</legend>
      <ul className="flex flex-wrap gap-3">
        {preview.times.map((choice) => (
          <li key={choice.unit} className="flex items-center gap-2">
            <Sketch bytes={choice.curve} />
            <span className="text-[0.82rem]">
              <span className="block max-w-[17rem] text-quiet">{choice.words}</span>
              <Button look="bare" className="-ml-3.5 min-h-8" onClick={() => choose(choice.unit)}>
                {WORDS[choice.unit]}
                {choice.capacityAh !== null && `: ${choice.capacityAh.toPrecision(4)} Ah`}
              </Button>
            </span>
          </li>
        ))}
      </ul>
      <p className="mt-1 text-[0.82rem] text-quiet">
        Taken in without an answer its result is held. The answer is kept for the next file of this
        shape.
      </p>
      {problem && <p role="alert">{problem}</p>}
    </fieldset>
  );
}
