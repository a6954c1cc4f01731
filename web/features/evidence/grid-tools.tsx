'use client';

import {
  READING_PURPOSE_CODES,
  READING_PURPOSES,
  type ReadingPurpose,
} from '@dusk-tally/core/arrivals';
import type { ProbePlace } from '@dusk-tally/core/verdicts';
import { Choice, Option } from '@/kit/choice';
import { Label } from '@/kit/form-parts';
import type { Kind } from './entry-columns';
import type { GridInstrument, useGrid } from './use-grid';
import type { Walk } from './grid-walk';

/** How readings are taken, and which way the hand goes. */
export function GridTools({
  grid,
  instruments,
  kinds,
  mayChoose,
  claimedRateIt,
  walk,
  onWalk,
}: {
  grid: ReturnType<typeof useGrid>;
  instruments: readonly GridInstrument[];
  kinds: readonly Kind[];
  /** What readings are taken for may be chosen. */
  mayChoose: boolean;
  /** Rate the capacity is claimed at; null where the claim names none. */
  claimedRateIt: number | null;
  walk: Walk;
  onWalk: (walk: Walk) => void;
}) {
  const { how, more } = grid;
  const asksForCurrent =
    kinds.includes('capacity') && claimedRateIt !== null && more !== 'energyShown';
  return (
    <>
      <Label text="Read with">
        <Choice className="min-w-56" value={how.instrument} onValue={how.setInstrument}>
          <Option value="">A meter not described</Option>
          {instruments.map((row) => (
            <Option key={row.id} value={row.id}>
              {row.name}
            </Option>
          ))}
        </Choice>
      </Label>
      {mayChoose && (
        <Label text="Voltages are taken">
          <Choice
            value={how.purpose}
            onValue={(next) => grid.choosePurpose(next as ReadingPurpose)}
          >
            {READING_PURPOSE_CODES.map((code) => (
              <Option key={code} value={code}>
                {READING_PURPOSES[code].words}
              </Option>
            ))}
          </Choice>
        </Label>
      )}
      <Label text="Enter goes">
        <Choice value={walk} onValue={(next) => onWalk(next as Walk)}>
          <Option value="down">down the column</Option>
          <Option value="pair">OCV and AC, then the next cell</Option>
          <Option value="all">across all, then the next cell</Option>
        </Choice>
      </Label>
      {kinds.includes('acResistance') && (
        <Label text="AC probes are">
          <Choice value={how.probe} onValue={(next) => how.setProbe(next as ProbePlace)}>
            <Option value="terminal">on the terminals</Option>
            <Option value="bolt">on the bolts</Option>
            <Option value="bar">on the bars</Option>
          </Choice>
        </Label>
      )}
      {kinds.includes('capacity') && (
        <Label text="More columns">
          <Choice value={more} onValue={grid.showMore}>
            <Option value="">none</Option>
            <Option value="energyShown">energy, current and time as shown</Option>
            <Option value="energyBehindInverter">energy behind an inverter</Option>
          </Choice>
        </Label>
      )}
      {(mayChoose || asksForCurrent) && (
        <p className="order-last basis-full text-[0.82rem] text-quiet">
          {mayChoose &&
            `A voltage ${READING_PURPOSES[how.purpose].words} ${READING_PURPOSES[how.purpose].says}. `}
          {asksForCurrent &&
            `The capacity is claimed at ${claimedRateIt} It: a typed one is compared only with its current, under More columns.`}
        </p>
      )}
    </>
  );
}
