'use client';

import type { CellFormat } from '@dusk-tally/core/arrivals';
import type { PacksView, PhotoView } from '@dusk-tally/lab/arrivals';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { BreakDown } from './pack-builds';
import { PackCells } from './pack-cells';
import { PackCaution, PackForm } from './pack-form';
import type { LotCell } from './pack-ranking';
import { PhotoDrop } from './photo-drop';

type Pack = PacksView['packs'][number];

/** Packs: what their label can mean, broken down into cells that remember where they sat. */
export function PacksStep({
  lotId,
  format,
  lot,
  view,
  photos,
}: {
  lotId: number;
  format: CellFormat;
  lot: LotCell;
  view: PacksView;
  photos: PhotoView[];
}) {
  const { opened } = view.yield;
  const all = view.yield.good + view.yield.questionable + view.yield.dead;
  return (
    <div className="space-y-4">
      <PackForm lotId={lotId} />
      {view.packs.length > 0 && <PackCaution acknowledged={view.acknowledgedToday} />}
      {opened > 0 && (
        <p data-testid="harvest">
          Harvest of {opened} {opened === 1 ? 'pack' : 'packs'}: {view.yield.good} good,{' '}
          {view.yield.questionable} questionable, {view.yield.dead} dead of {all} (
          {((100 * view.yield.good) / all).toFixed(0)} % good); {view.yield.minutes} minutes,{' '}
          {(view.yield.minutes / all).toFixed(1)} a cell.
        </p>
      )}
      <ul className="space-y-3">
        {view.packs.map((pack) => (
          <li key={pack.id} className="panel p-4">
            <div className="flex flex-wrap items-baseline gap-x-3">
              <h2 className="font-semibold">{pack.number}</h2>
              <span className="text-quiet">
                {pack.label ? `“${pack.label}”, ` : ''}
                {pack.voltageV} V{pack.capacityAh !== null && `, ${pack.capacityAh} Ah`}
                {pack.energyWh !== null && `, ${pack.energyWh} Wh`}
                {pack.openedAt &&
                  `; ${pack.series}S${pack.parallel}P ${pack.chemistry}, broken down by ${pack.openedByName}${pack.minutes === null ? '' : ` in ${pack.minutes} min`}`}
              </span>
            </div>
            {pack.weakGroup && <p className="mt-1 text-missed">{pack.weakGroup}</p>}
            {pack.openedAt ? (
              <PackCells pack={pack} />
            ) : (
              <BreakDown pack={pack} format={format} lot={lot} ready={view.acknowledgedToday} />
            )}
            <PhotoDropFold lotId={lotId} pack={pack} photos={photos} />
          </li>
        ))}
      </ul>
    </div>
  );
}

function PhotoDropFold({
  lotId,
  pack,
  photos,
}: {
  lotId: number;
  pack: Pack;
  photos: PhotoView[];
}) {
  const own = photos.filter((p) => p.subjectType === 'pack' && p.subjectId === pack.id).length;
  const [open, setOpen] = useState(false);
  if (!open)
    return (
      <Button look="bare" className="mt-2" onClick={() => setOpen(true)}>
        Photographs{own > 0 && ` (${own})`}
      </Button>
    );
  return (
    <PhotoDrop
      lotId={lotId}
      subject={{ type: 'pack', id: pack.id }}
      photos={photos}
      title={`Photographs of ${pack.number}`}
    />
  );
}
