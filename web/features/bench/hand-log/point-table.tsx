'use client';

import { type PointField, POINT_FIELDS } from '@dusk-tally/core/evidence';
import type { HandLogView } from '@dusk-tally/lab/gathering';
import { Button } from '@/kit/button';
import { Table } from '@/kit/table';
import { useClock } from '@/kit/use-clock';
import type { useAct } from '@/kit/use-act';
import { takeBackHandPointAct } from './hand-acts';
import { fieldHead } from './point-fields';

/** A value as it was typed. */
function shown(field: PointField, value: number, digits: number | undefined): string {
  if (field !== 'shownS') return value.toFixed(digits ?? 0);
  const minutes = Math.round(value / 60);
  return `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}`;
}

/** All points of a hand log, the newest on top, with the charge told in two ways. */
export function PointTable({
  view,
  act,
  busy,
}: {
  view: HandLogView;
  act: ReturnType<typeof useAct>['run'];
  busy: boolean;
}) {
  const clock = useClock();
  const { points, says } = view;
  if (points.length === 0) return null;
  const fields = (Object.keys(POINT_FIELDS) as PointField[]).filter((field) =>
    points.some(({ values }) => values[field] !== undefined),
  );
  const sideAt = (atS: number) => says?.sides.find((side) => side.atS === atS);
  const now = new Date(view.now);
  return (
    <Table label="Points">
      <thead>
        <tr>
          <th>Read at</th>
          {fields.map((field) => (
            <th key={field} className="num">
              {fieldHead(field)}
            </th>
          ))}
          <th className="num">By current / Ah</th>
          <th>By</th>
          <th>
            <span className="sr-only">What can be done</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {points.toReversed().map((point) => (
          <tr key={point.id} className={point.takenBack ? 'text-quiet line-through' : ''}>
            <td className="whitespace-nowrap" title={point.keptDespite ?? undefined}>
              {clock(point.at, now)}
              {point.isStop && <span className="text-quiet"> stopped</span>}
              {point.keptDespite && <span className="text-doubt"> kept as read</span>}
            </td>
            {fields.map((field) => (
              <td key={field} className="num">
                {point.values[field] === undefined
                  ? '–'
                  : shown(field, point.values[field], point.decimals[field])}
              </td>
            ))}
            <td className="num">
              {point.takenBack ? '' : (sideAt(point.atS)?.currentAh?.toFixed(2) ?? '–')}
            </td>
            <td className="whitespace-nowrap">{point.by}</td>
            <td className="whitespace-nowrap text-right no-underline">
              {!point.takenBack && (
                <Button
                  look="bare"
                  disabled={busy}
                  onClick={() => act((key) => takeBackHandPointAct({ pointId: point.id }, key))}
                >
                  Take back
                </Button>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}
