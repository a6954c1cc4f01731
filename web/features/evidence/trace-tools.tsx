'use client';

import { Button } from '@/kit/button';
import { Tick } from '@/kit/tick';

/** What the lines of a trace are, and what can be done with what is shown. */
export function TraceTools({
  unit,
  isWhole,
  hasHoles,
  temperature,
  isZoomed,
  onWider,
  onWhole,
  onCsv,
  onSvg,
}: {
  /** Unit of the time across. */
  unit: string;
  /** Whether every sample is drawn; undefined before they are there. */
  isWhole: boolean | undefined;
  hasHoles: boolean;
  /** Whether the temperature is drawn; null where none was read. */
  temperature: { isOn: boolean; onChange: (on: boolean) => void } | null;
  isZoomed: boolean;
  onWider: () => void;
  onWhole: () => void;
  onCsv: () => void;
  onSvg: () => void;
}) {
  return (
    <div className="mt-1 flex flex-wrap items-center gap-x-1 text-[0.82rem] text-quiet">
      <span className="mr-auto min-w-0 flex-1">
        Time / {unit}. Line: voltage; dashes: current; shaded: used for the figures
        {hasHoles && '; grey: no readings'}. Drag to zoom
        {isWhole !== undefined && (isWhole ? '; every sample is drawn' : '; extremes are drawn')}.
      </span>
      {temperature && (
        <Tick checked={temperature.isOn} onChecked={temperature.onChange} className="gap-1.5 px-2">
          Temperature
        </Tick>
      )}
      {isZoomed && (
        <>
          <Button look="bare" onClick={onWider}>
            Wider
          </Button>
          <Button look="bare" onClick={onWhole}>
            Whole run
          </Button>
        </>
      )}
      <Button look="bare" onClick={onCsv} aria-label="Save what is shown as CSV">
        CSV
      </Button>
      <Button look="bare" aria-label="Save what is shown as SVG" onClick={onSvg}>
        SVG
      </Button>
    </div>
  );
}
