'use client';

import { type PointField, POINT_FIELDS } from '@dusk-tally/core/evidence';
import type { KeyboardEvent } from 'react';
import { Button } from '@/kit/button';
import { Input } from '@/kit/form-parts';
import type { HandPoints, PointNote } from './use-hand-points';

/** What every tester with a display shows, and a hand meter beside it. */
export const USUAL_FIELDS: readonly PointField[] = ['shownV', 'shownA', 'shownAh', 'cellV'];
/** What some show, and probes. */
export const MORE_FIELDS: readonly PointField[] = [
  'shownW',
  'shownWh',
  'shownS',
  'shownMohm',
  'shownC',
  'cellC',
  'terminalC',
  'cableC',
];

/** A field's name with its unit. */
export const fieldHead = (field: PointField): string =>
  field === 'shownS'
    ? 'Time on it / h:min'
    : `${POINT_FIELDS[field].words} / ${POINT_FIELDS[field].unit}`;

/** Fields of one point. */
export function PointFields({
  benchRunId,
  cell,
  fields,
  points,
  onKeyDown,
}: {
  benchRunId: number;
  cell: string;
  fields: readonly (PointField | 'at')[];
  points: HandPoints;
  onKeyDown: (event: KeyboardEvent<HTMLInputElement>, field: PointField | 'at') => void;
}) {
  const wrong = points.notes[benchRunId]?.field;
  return (
    <div className="flex flex-wrap gap-2">
      {fields.map((field) => {
        const head = field === 'at' ? 'Read at, if not now' : fieldHead(field);
        return (
          <label key={field} className="block">
            <span className="mb-0.5 block text-[0.82rem] text-quiet">{head}</span>
            <Input
              data-point={`${benchRunId} ${field}`}
              aria-label={`${head} of ${cell}`}
              aria-invalid={wrong === field || undefined}
              className={`min-h-11 tabular-nums ${field === 'at' ? 'w-36' : 'w-24'}`}
              inputMode={field === 'at' || field === 'shownS' ? 'text' : 'decimal'}
              autoComplete="off"
              placeholder={field === 'at' ? 'hh:mm' : undefined}
              value={points.drafts[benchRunId]?.[field] ?? ''}
              onChange={(event) => points.type(benchRunId, field, event.target.value)}
              onKeyDown={(event) => onKeyDown(event, field)}
            />
          </label>
        );
      })}
    </div>
  );
}

/** What is asked or wrong about a point that is typed. */
export function PointNoteLine({
  note,
  onAnswer,
}: {
  note: PointNote | undefined;
  /** Keeps it as read. */
  onAnswer: () => void;
}) {
  if (!note) return null;
  return (
    <p
      role="alert"
      className={`mt-2 max-w-[70ch] ${note.isDanger ? 'font-semibold text-missed' : 'text-doubt'}`}
    >
      {note.text}
      {note.isQuestion && (
        <>
          {' '}
          <Button look="bare" className="underline" onClick={onAnswer}>
            Keep it as read
          </Button>
        </>
      )}
    </p>
  );
}
