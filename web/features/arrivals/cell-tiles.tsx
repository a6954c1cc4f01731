import { findingKind, GATE_WORDS } from '@dusk-tally/core/arrivals';
import type { MarkedCell } from './inspection-marks';

function wordsOf(cell: MarkedCell): string {
  if (cell.findings.length > 0)
    return cell.findings.map((code) => findingKind(code).words).join(', ');
  if (cell.isOnItsWay) return 'being stored …';
  if (!cell.inspected) return 'not looked at';
  return cell.gate === 'ready' || cell.gate === 'open' ? 'clear' : GATE_WORDS[cell.gate];
}

const EDGE = { stop: 'border-missed', serious: 'border-doubt', note: 'border-strong-rule' };

/** Cells as tiles in rows of ten, groups of five apart, large enough for a gloved finger. */
export function CellTiles({
  cells,
  chosen,
  onPick,
}: {
  cells: readonly MarkedCell[];
  chosen: ReadonlySet<string>;
  onPick: (number: string, upTo: boolean) => void;
}) {
  return (
    <div
      role="group"
      aria-label="Cells"
      className="grid grid-cols-[repeat(auto-fill,minmax(6.2rem,1fr))] content-start gap-1.5"
    >
      {cells.map((cell) => {
        const words = wordsOf(cell);
        const picked = chosen.has(cell.number);
        return (
          <button
            key={cell.id}
            type="button"
            aria-pressed={picked}
            onClick={(event) => onPick(cell.number, event.shiftKey)}
            className={`min-h-14 rounded-sm border-2 px-2 py-1 text-left ${picked ? 'border-ember bg-ember-wash' : `bg-raised ${cell.worst ? EDGE[cell.worst] : 'border-rule'}`}`}
          >
            <span className="block font-semibold tabular-nums">{cell.number}</span>
            <span
              className={`block truncate text-[0.78rem] ${cell.worst === 'stop' ? 'text-missed' : cell.worst === 'serious' ? 'text-doubt' : 'text-quiet'}`}
              title={words}
            >
              {words}
            </span>
          </button>
        );
      })}
    </div>
  );
}
