import { CLAIM_WORDS } from '@dusk-tally/core/arrivals';
import { LIFE_STATES } from '@dusk-tally/core/stock';
import { decimalsForUncertainty, formatNumber } from '@dusk-tally/core/units';
import type { CellLine } from '@dusk-tally/lab/verdicts';
import { boundWord } from '@/kit/bound-word';
import { Link } from '@/kit/link';
import type { DataColumn } from '@/kit/data-table/columns';
import { FigureText } from '@/kit/figure-text';
import { TrailLink } from '@/kit/trail-link';
import { VERDICT_NAMES, VerdictWord } from '@/kit/verdict-word';
import { verdictOf } from './verdict-of';

/** The end of a long mark tells cells apart: maker and type stand at its start. */
const shortMark = (label: string): string => (label.length > 18 ? `…${label.slice(-14)}` : label);

/**
 * Decimals a whole column is shown with: those its least certain value supports, so that values stand
 * on their point. Undefined where no uncertainty is known.
 */
export function decimalsOfColumn(uncertainties: readonly (number | null)[]): number | undefined {
  const known = uncertainties.filter((U): U is number => U !== null && U > 0);
  return known.length === 0 ? undefined : decimalsForUncertainty(Math.max(...known));
}

/** Why a cell is no better, without what the head of the column says. */
export const shortWhy = (line: CellLine): string => wholeWhy(line).replace(/Not \w+( yet)?: /g, '');

export const wholeWhy = (line: CellLine): string => {
  if (line.held) return `Held: ${line.held}`;
  if (line.reasons.length > 0) return line.reasons.join(' ');
  return line.waitingFor.length > 0 ? `Waiting for ${line.waitingFor.join(', ')}.` : '';
};

type Column = DataColumn<CellLine>;

const NUMBER: Column = {
  key: 'number',
  head: 'Cell',
  width: 155,
  plain: ({ number }) => number,
  cell: ({ number, label }) => (
    <Link href={`/cells/${number}`} className="font-medium hover:underline">
      {number}
      {label && (
        <span className="block truncate text-[0.72rem] font-normal text-quiet" title={label}>
          {' '}
          {shortMark(label)}{' '}
        </span>
      )}
    </Link>
  ),
};

/** Capacity as it counts and its uncertainty, with so many decimals. */
const capacityColumns = (capacityDecimals: number | undefined): Column[] => [
  {
    key: 'capacityAh',
    head: 'Capacity / Ah',
    width: 155,
    num: true,
    plain: ({ capacityAh }) => capacityAh,
    beside: [
      { head: 'U of capacity / Ah', plain: ({ capacityU }) => capacityU },
      {
        head: 'Capacity is',
        plain: ({ capacityAh, bound }) => (capacityAh === null ? null : boundWord(bound)),
      },
    ],
    cell: (line) => (
      <TrailLink figureId={line.capacityFigureId}>
        <FigureText
          value={line.capacityAh}
          U={line.capacityU}
          bound={line.bound}
          decimals={capacityDecimals}
        />
        {line.corrections.length > 0 && (
          <span className="block text-[0.72rem] leading-tight text-quiet tabular-nums">
            {' '}
            measured {formatNumber(line.capacityRawAh!, capacityDecimals ?? 3)}
          </span>
        )}
      </TrailLink>
    ),
  },
  {
    key: 'capacityU',
    head: 'U of capacity / Ah',
    width: 120,
    num: true,
    hiddenAtFirst: true,
    plain: ({ capacityU }) => capacityU,
    cell: ({ capacityU }) => <FigureText value={capacityU} U={null} decimals={capacityDecimals} />,
  },
];

const VERDICT: Column = {
  key: 'verdict',
  head: 'Capacity claim',
  width: 144,
  plain: (line) => VERDICT_NAMES[verdictOf(line)].word,
  cell: (line) => (
    <>
      <VerdictWord verdict={verdictOf(line)} />
      {line.against.length > 0 && (
        <span className="block truncate text-[0.72rem] leading-tight text-missed">
          {`against: ${line.against.map((kind) => CLAIM_WORDS[kind].toLowerCase()).join(', ')}`}
        </span>
      )}
    </>
  ),
};

const acColumn = (acDecimals: number | undefined): Column => ({
  key: 'acMohm',
  head: 'AC / mΩ',
  width: 138,
  num: true,
  plain: ({ acMohm }) => acMohm,
  beside: [
    { head: 'U of AC / mΩ', plain: ({ acU }) => acU },
    {
      head: 'AC is',
      plain: ({ acMohm, acBound }) => (acMohm === null ? null : boundWord(acBound)),
    },
  ],
  cell: (line) => (
    <TrailLink figureId={line.acFigureId}>
      <FigureText value={line.acMohm} U={line.acU} bound={line.acBound} decimals={acDecimals} />
    </TrailLink>
  ),
});

/** What needs no decimals of its own. */
const OTHERS: readonly Column[] = [
  {
    key: 'ocvV',
    head: 'OCV / V',
    width: 72,
    num: true,
    plain: ({ ocvV }) => ocvV,
    cell: ({ ocvV }) => <FigureText value={ocvV} U={null} />,
  },
  {
    key: 'stateOfHealth',
    head: 'SoH / %',
    width: 72,
    num: true,
    plain: ({ stateOfHealth }) =>
      stateOfHealth === null ? null : Number((100 * stateOfHealth).toFixed(2)),
    cell: ({ stateOfHealth, bound }) => (
      <>
        {stateOfHealth !== null && bound === 'atLeast' && (
          <abbr title="at least" className="text-quiet no-underline">
            ≥{' '}
          </abbr>
        )}
        <FigureText
          value={stateOfHealth === null ? null : 100 * stateOfHealth}
          U={null}
          decimals={1}
        />
      </>
    ),
  },
  {
    key: 'grade',
    head: 'Grade',
    width: 78,
    plain: ({ grade }) => grade,
    cell: ({ grade }) => grade ?? <span className="text-quiet">waiting</span>,
  },
  {
    key: 'life',
    head: 'Where it stands',
    width: 130,
    hiddenAtFirst: true,
    plain: ({ life }) => LIFE_STATES[life],
    cell: ({ life }) => LIFE_STATES[life],
  },
  {
    key: 'why',
    head: 'Why not better',
    width: 190,
    grows: true,
    unsorted: true,
    plain: wholeWhy,
    cell: (line) => (
      <span className="line-clamp-2 text-[0.82rem] leading-snug text-quiet" title={wholeWhy(line)}>
        {shortWhy(line)}
      </span>
    ),
  },
];

/** Columns of the cells table, their decimals by what the lot’s results support. */
export const cellColumns = (lines: readonly CellLine[]): Column[] => [
  NUMBER,
  ...capacityColumns(decimalsOfColumn(lines.map(({ capacityU }) => capacityU))),
  VERDICT,
  acColumn(decimalsOfColumn(lines.map(({ acU }) => acU))),
  ...OTHERS,
];
