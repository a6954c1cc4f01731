'use client';

import { type NameableCell, readCells } from '@dusk-tally/core/arrivals';
import type { StringPage } from '@dusk-tally/lab/evidence';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Fold } from '@/kit/fold';
import { Input, Label } from '@/kit/form-parts';
import { Problem } from '@/kit/page';
import { useAct } from '@/kit/use-act';
import { tieStringAct } from '../acts';
import { fillFrom } from './fill-from';

/** Which cell of the lot each column is of, and what the period is called. */
export function StringTies({
  page,
  lotCells,
}: {
  page: StringPage;
  lotCells: readonly NameableCell[];
}) {
  const { run, busy, problem } = useAct();
  const [name, setName] = useState(page.name);
  const [texts, setTexts] = useState(page.cells.map(({ cell }) => cell?.number ?? ''));
  const [wrong, setWrong] = useState<string | null>(null);
  const settle = (column: number) => {
    const filled = fillFrom(texts, column, lotCells);
    if ('wrong' in filled) setWrong(filled.wrong);
    else {
      setWrong(null);
      setTexts(filled.texts);
    }
  };
  const keep = () => {
    const ids = texts.map((text) => (text.trim() === '' ? null : readCells(text, lotCells)));
    const odd = ids.findIndex((read) => read !== null && read.ids.length !== 1);
    if (odd >= 0) {
      setWrong(
        `“${texts[odd]}” for ${page.cells[odd]!.header}: expected one cell of ${page.lotCode}.`,
      );
      return;
    }
    run((key) =>
      tieStringAct(
        {
          stringId: page.id,
          version: page.version,
          name,
          cellIds: ids.map((read) => read?.ids[0] ?? null),
        },
        key,
      ),
    );
  };
  const tied = page.cells.filter(({ cell }) => cell !== null).length;
  return (
    <section className="panel mt-4 p-4">
      <Fold
        title={`Which cells these are: ${tied} of ${page.cells.length} named`}
        openAtFirst={tied === 0 && !page.takenBack}
      >
        <p className="mt-1 text-quiet">
          A range such as {lotCells[0]?.number ?? 'B-0001'} to{' '}
          {lotCells[Math.min(15, lotCells.length - 1)]?.number ?? 'B-0016'} in one field fills the
          ones after it; an empty field is a column nobody can name.
        </p>
        <div className="mt-2 grid grid-cols-2 gap-2 sm:grid-cols-4 lg:grid-cols-8">
          {page.cells.map(({ header }, column) => (
            <Label key={header} text={header}>
              <Input
                value={texts[column]}
                onChange={(event) =>
                  setTexts((old) =>
                    old.map((text, i) => (i === column ? event.target.value : text)),
                  )
                }
                onBlur={() => settle(column)}
                onKeyDown={(event) => event.key === 'Enter' && settle(column)}
              />
            </Label>
          ))}
        </div>
        <div className="mt-3 flex flex-wrap items-end gap-3">
          <Label text="Name of the period" className="w-72">
            <Input value={name} onChange={(event) => setName(event.target.value)} />
          </Label>
          <Button look="primary" disabled={busy} onClick={keep}>
            Keep the cells
          </Button>
        </div>
        {(wrong ?? problem) && (
          <div className="mt-2">
            <Problem>{wrong ?? problem}</Problem>
          </div>
        )}
      </Fold>
    </section>
  );
}
