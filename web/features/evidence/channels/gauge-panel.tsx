'use client';

import type { GaugeStudy } from '@dusk-tally/core/evidence';
import type { MetersView } from '@dusk-tally/lab/evidence';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { useAct } from '@/kit/use-act';
import { studyGaugeAct } from './channel-acts';
import { Table } from '@/kit/table';
import { Tick } from '@/kit/tick';

const SOURCE = {
  repeatability: 'repeats on one channel',
  reproducibility: 'between channels',
  measuring: 'measuring, both together',
  cells: 'between cells',
  total: 'all of it',
};
const LINE = {
  cells: 'cells',
  channels: 'channels',
  interaction: 'cell with channel',
  repeats: 'repeats',
};
const VERDICT = {
  good: 'Good: measuring takes less than 10 % of the study’s spread.',
  borderline: 'Borderline: measuring takes 10 to 30 % of the study’s spread.',
  unfit: 'Unfit: measuring takes more than 30 % of the study’s spread.',
};

/** What a study found: its verdict, its spreads, its analysis of variance. */
function StudyTold({ study }: { study: GaugeStudy }) {
  return (
    <div className="grid gap-4 md:grid-cols-2" data-testid="gauge-study">
      <div>
        <p className="font-medium">{VERDICT[study.verdict]}</p>
        <p className="text-quiet">
          {study.cells} cells × {study.channels} channels × {study.repeats} repeats; it tells{' '}
          {study.categories} {study.categories === 1 ? 'class' : 'classes'} of cells apart.
        </p>
        <Table className="mt-2 w-full">
          <thead>
            <tr>
              <th>Spread</th>
              <th className="num">s / Ah</th>
              <th className="num">of the study</th>
            </tr>
          </thead>
          <tbody>
            {study.sources.map((source) => (
              <tr key={source.name}>
                <td>{SOURCE[source.name]}</td>
                <td className="num">{source.sd.toPrecision(3)}</td>
                <td className="num">{source.percent.toFixed(1)} %</td>
              </tr>
            ))}
          </tbody>
        </Table>
      </div>
      <Table className="w-full self-start">
        <caption className="pb-1 text-left text-quiet">
          Analysis of variance, crossed
          {study.pooled && '; cell with channel is not significant and counts as repeats'}
        </caption>
        <thead>
          <tr>
            <th>Source</th>
            <th className="num">df</th>
            <th className="num">MS</th>
            <th className="num">F</th>
            <th className="num">p</th>
          </tr>
        </thead>
        <tbody>
          {study.anova.map((line) => (
            <tr key={line.source}>
              <td>{LINE[line.source]}</td>
              <td className="num">{line.degreesOfFreedom}</td>
              <td className="num">{line.meanSquare.toPrecision(3)}</td>
              <td className="num">{line.f?.toPrecision(3) ?? ''}</td>
              <td className="num">
                {line.p === null ? '' : line.p < 0.001 ? '< 0.001' : line.p.toFixed(3)}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </div>
  );
}

/** Cells against channels: how often each ran where; pick a crossed part and study it. */
export function GaugePanel({
  repeats,
  channels,
}: {
  repeats: MetersView['repeats'];
  channels: { id: number; title: string }[];
}) {
  const used = channels.filter(({ id }) => repeats.some((row) => (row.counts[id] ?? 0) > 1));
  const crossed = (row: MetersView['repeats'][number], ids: Set<number>) =>
    [...ids].every((id) => (row.counts[id] ?? 0) > 1);
  const [picked, setPicked] = useState(() => new Set(used.map(({ id }) => id)));
  const rows = repeats.filter((row) => crossed(row, picked));
  const [study, setStudy] = useState<GaugeStudy | null>(null);
  const { run, busy, problem, setProblem } = useAct();
  if (used.length < 2)
    return (
      <p className="text-quiet">
        A study needs at least two cells that ran twice or more on each of two channels. Control
        cells come to that by themselves.
      </p>
    );
  const toggle = (id: number) => {
    const next = new Set(picked);
    if (next.has(id)) next.delete(id);
    else next.add(id);
    setPicked(next);
    setStudy(null);
  };
  return (
    <div className="space-y-3">
      <fieldset className="flex flex-wrap gap-x-4 gap-y-1">
        <legend className="mb-1 text-quiet">Channels in the study</legend>
        {used.map(({ id, title }) => (
          <Tick
            key={id}
            checked={picked.has(id)}
            onChecked={() => toggle(id)}
            className="min-h-8 gap-1.5"
          >
            {title}
          </Tick>
        ))}
      </fieldset>
      <p>
        {rows.length} {rows.length === 1 ? 'cell' : 'cells'} ran at least twice on each of them
        {rows.length > 0 && `: ${rows.map((row) => row.cell).join(', ')}`}.
      </p>
      <Button
        disabled={busy || rows.length < 2 || picked.size < 2}
        onClick={() =>
          run(
            () => studyGaugeAct({ cells: rows.map((row) => row.cell), channelIds: [...picked] }),
            (result) => {
              setStudy(result.study);
              if (result.reason) setProblem(result.reason);
            },
          )
        }
      >
        Study them
      </Button>
      {problem && <Problem>{problem}</Problem>}
      {study && <StudyTold study={study} />}
    </div>
  );
}
