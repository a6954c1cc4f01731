import {
  type CellFormat,
  findingKind,
  type FindingKind,
  findingsOf,
  SEVERITIES,
  type Severity,
  worstSeverity,
} from '@dusk-tally/core/arrivals';
import type { ArrivalCell } from '@dusk-tally/lab/arrivals';
import type { TallyStroke } from '@/kit/tally-layout';

export type Mark =
  | { act: 'clear'; cellIds: number[]; seen: Record<string, string[]> }
  | { act: 'clearRest'; except: number[] }
  | { act: 'finding'; cellIds: number[]; code: string; note: string | null };

export interface HeldMarks {
  clientKey: string;
  marks: Mark[];
}

/** One key for each finding, so that a hand on the keyboard need not leave it. */
export const FINDING_KEYS: Record<string, string> = {
  leaking: 'l',
  smell: 'm',
  hot: 'h',
  punctured: 'p',
  swollen: 'w',
  burnt: 'b',
  sleeve: 's',
  dented: 'd',
  vent: 'v',
  thread: 't',
  gas: 'g',
  corrosion: 'k',
  weld: 'e',
  slightlySwollen: '1',
  scratches: '2',
  adhesive: '3',
  label: '4',
  codeUnreadable: '5',
  otherSleeve: '6',
  ownersMarks: '7',
  copiedCode: '8',
};

/** Findings of a format in three groups, worst first. */
export function palette(format: CellFormat): { severity: Severity; kinds: FindingKind[] }[] {
  const kinds = findingsOf(format);
  return SEVERITIES.map((severity) => ({
    severity,
    kinds: kinds.filter((kind) => kind.severity === severity),
  }));
}

/** A cell of an inspection, and whether a mark of it is on its way. */
export type MarkedCell = ArrivalCell & { isOnItsWay?: boolean };

/**
 * Cells with the marks still on their way: a finding shows at once, a clear only once it is stored,
 * for somebody else may have found something.
 */
export function withMarks(
  cells: readonly ArrivalCell[],
  marks: readonly Mark[],
): readonly MarkedCell[] {
  if (marks.length === 0) return cells;
  const next = new Map<number, MarkedCell>(cells.map((cell) => [cell.id, cell]));
  for (const mark of marks) {
    const except = mark.act === 'clearRest' ? new Set(mark.except) : null;
    const ids = except
      ? [...next.values()]
          .filter((cell) => !cell.inspected && !except.has(cell.id))
          .map((c) => c.id)
      : (mark as { cellIds: number[] }).cellIds;
    for (const id of ids) {
      const cell = next.get(id);
      if (!cell) continue;
      if (mark.act !== 'finding') {
        next.set(id, { ...cell, isOnItsWay: true });
        continue;
      }
      const findings = [...new Set([...cell.findings, mark.code])];
      const worst = worstSeverity(findings.map((code) => findingKind(code).severity));
      next.set(id, {
        ...cell,
        inspected: true,
        findings,
        worst,
        gate: worst === 'stop' ? 'quarantined' : worst === 'serious' ? 'blocked' : cell.gate,
      });
    }
  }
  return cells.map((cell) => next.get(cell.id)!);
}

const SIGN_OF_GATE: Partial<Record<ArrivalCell['gate'], TallyStroke['sign']>> = {
  quarantined: 'stop',
  discard: 'discard',
  blocked: 'serious',
  waitsForLead: 'lead',
  recovering: 'recovering',
};

/** Cells as strokes: full height once looked at, a stub before. */
export function strokesOf(cells: readonly ArrivalCell[]): TallyStroke[] {
  return cells.map((cell) => ({
    number: cell.number,
    share: cell.inspected ? 0.95 : null,
    mark: cell.inspected ? 'seen' : 'unseen',
    sign: SIGN_OF_GATE[cell.gate] ?? (cell.worst === 'note' ? 'note' : null),
  }));
}
