'use client';

import type { NameableCell } from '@dusk-tally/core/arrivals';
import type { StringPage } from '@dusk-tally/lab/evidence';
import { useState } from 'react';
import { PeriodCompare } from './period-compare';
import { StringTies } from './string-ties';
import { balanceOf, StringView } from './string-view';

/** Everything of one watched string; cells are called by their numbers where those are known. */
export function StringWhole({
  page,
  lotCells,
}: {
  page: StringPage;
  lotCells: readonly NameableCell[];
}) {
  const [balance, setBalance] = useState('10');
  const names = page.cells.map(({ header, cell }) => cell?.number ?? header);
  return (
    <>
      <StringView page={page} names={names} balance={balance} onBalance={setBalance} />
      {!page.takenBack && (
        <>
          <PeriodCompare page={page} names={names} balanceMv={balanceOf(balance)} />
          <StringTies key={page.version} page={page} lotCells={lotCells} />
        </>
      )}
    </>
  );
}
