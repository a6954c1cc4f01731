import type { CellItem, CellLine } from '@dusk-tally/lab/verdicts';
import { formatNumber } from '@dusk-tally/core/units';
import type { ReactNode } from 'react';
import { FigureText } from '@/kit/figure-text';
import { TrailLink } from '@/kit/trail-link';
import { VerdictWord } from '@/kit/verdict-word';
import { verdictOf } from './verdict-of';

function Tile({ title, children, foot }: { title: string; children: ReactNode; foot?: ReactNode }) {
  return (
    <div className="panel min-w-0 flex-1 basis-52 p-3.5">
      <p className="text-[0.82rem] text-quiet">{title}</p>
      <div className="text-lg">{children}</div>
      {foot && <div className="mt-0.5 text-[0.82rem] text-quiet">{foot}</div>}
    </div>
  );
}

const chance = (probability: number | null): string =>
  probability === null
    ? ''
    : `chance that it conforms ${probability > 0.9995 ? 'over 99.9' : probability < 0.0005 ? 'under 0.1' : (100 * probability).toFixed(1)} %`;

/** Where a cell stands against its claim, and its grade with the reason. */
export function CellStanding({ line, items }: { line: CellLine; items: CellItem[] }) {
  const verdict = verdictOf(line);
  const itemOf = (kind: CellItem['assessed']['item']) =>
    items.find(({ assessed }) => assessed.item === kind);
  const [capacity, ac] = [itemOf('capacity'), itemOf('acResistance')];
  return (
    <>
      <div className="flex flex-wrap gap-3">
        <Tile
          title="Capacity"
          foot={
            <>
              <VerdictWord
                verdict={capacity?.assessed.state === 'described' ? 'described' : verdict}
              />
              {capacity && `, claimed ${capacity.claimed}`}
              {line.verdict && <span className="block">{chance(line.probability)}</span>}
            </>
          }
        >
          <TrailLink figureId={line.capacityFigureId}>
            <FigureText value={line.capacityAh} U={line.capacityU} unit="Ah" bound={line.bound} />
          </TrailLink>
          {line.corrections.length > 0 && (
            <span className="block text-[0.82rem] text-quiet">
              at the claim’s conditions; measured{' '}
              <TrailLink figureId={line.capacityRawFigureId}>
                <FigureText value={line.capacityRawAh} U={null} unit="Ah" decimals={3} />
              </TrailLink>
            </span>
          )}
        </Tile>
        <Tile
          title="AC resistance at 1 kHz"
          foot={
            <>
              <VerdictWord
                verdict={
                  ac?.assessed.state === 'described' ? 'described' : (line.acVerdict ?? 'open')
                }
              />
              {ac && `, claimed ${ac.claimed}`}
            </>
          }
        >
          <TrailLink figureId={line.acFigureId}>
            <FigureText value={line.acMohm} U={line.acU} unit="mΩ" bound={line.acBound} />
          </TrailLink>
        </Tile>
        <Tile title="State of health" foot="capacity over the rated one">
          {line.stateOfHealth === null
            ? '–'
            : `${line.bound === 'atLeast' ? 'at least ' : ''}${formatNumber(100 * line.stateOfHealth, 1)} %`}
        </Tile>
        <Tile
          title="Grade"
          foot={
            line.waitingFor.length > 0 ? `Still open: ${line.waitingFor.join(', ')}` : undefined
          }
        >
          {line.grade ?? 'waiting'}
        </Tile>
      </div>
      {line.corrections.length > 0 && (
        <ul className="space-y-1 text-quiet" aria-label="Carried to the claim’s conditions">
          {line.corrections.map(({ kind, text }) => (
            <li key={kind}>{text}</li>
          ))}
        </ul>
      )}
      {(line.reasons.length > 0 || line.differences.length > 0) && (
        <ul className="space-y-1 text-quiet">
          {[...line.reasons, ...line.differences].map((text) => (
            <li key={text}>{text}</li>
          ))}
        </ul>
      )}
    </>
  );
}
