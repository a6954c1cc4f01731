import type { Derivatives } from '@dusk-tally/lab/verdicts';
import type { Axis, Drawn, Mark } from './curves-chart';
import type { CellCurve } from '@/lib/use-curves';

/** What of a discharge is drawn. */
export type CurveKind = 'charge' | 'time' | 'dqdv' | 'dvdq';

export const KINDS: readonly CurveKind[] = ['charge', 'time', 'dqdv', 'dvdq'];

export const KIND_WORDS: Record<CurveKind, string> = {
  charge: 'Charge',
  time: 'Time',
  dqdv: 'dQ/dV',
  dvdq: 'dV/dQ',
};

export const isDerivative = (kind: CurveKind): kind is 'dqdv' | 'dvdq' =>
  kind === 'dqdv' || kind === 'dvdq';

/** Everything the chart needs to draw one kind. */
export interface CurvePicture {
  title: string;
  x: Axis;
  y: Axis;
  fromZero: 'x' | 'y' | 'both';
  drawn: Drawn[];
  top?: number;
  markX: Mark | null;
  markY: Mark | null;
}

const VOLT: Axis = { label: 'voltage', unit: 'V', digits: 3 };
const CHARGE: Axis = { label: 'charge given', unit: 'Ah', digits: 3 };

/** The value below which a share of all ordinates lies. */
function ordinateAt(drawn: readonly Drawn[], share: number): number | undefined {
  const all = drawn.flatMap(({ ys }) => Array.from(ys)).sort((a, b) => a - b);
  return all[Math.floor(share * (all.length - 1))];
}

/** Curves of a lot as one kind of picture. */
export function pictureOf(
  kind: CurveKind,
  curves: readonly CellCurve[],
  derivatives: readonly Derivatives[],
  { claimAh, cutoffV }: { claimAh: number | null; cutoffV: number },
): CurvePicture {
  const numbers = new Set(curves.map(({ number }) => number));
  const own = derivatives.filter(({ number }) => numbers.has(number));
  const claim = claimAh ? { value: claimAh, label: `claim ${claimAh} Ah` } : null;
  const cutoff = { value: cutoffV, label: `cut-off ${cutoffV} V` };
  if (kind === 'dqdv') {
    const drawn = own.flatMap(({ number, incremental }): Drawn[] =>
      incremental
        ? [{ number, xs: incremental.voltageV, ys: incremental.ahPerV.map((y) => Math.max(0, y)) }]
        : [],
    );
    return {
      title: 'Charge per volt against voltage',
      x: { ...VOLT, label: 'voltage under load' },
      y: { label: 'dQ/dV', unit: 'Ah/V', digits: 2 },
      fromZero: 'y',
      drawn,
      markX: null,
      markY: null,
    };
  }
  if (kind === 'dvdq') {
    const drawn = own.flatMap(({ number, differential }): Drawn[] =>
      differential ? [{ number, xs: differential.ah, ys: differential.voltPerAh }] : [],
    );
    const most = ordinateAt(drawn, 0.9);
    return {
      title: 'Fall of voltage per ampere-hour against charge',
      x: CHARGE,
      y: { label: 'dV/dQ', unit: 'V/Ah', digits: 4 },
      fromZero: 'both',
      drawn,
      // The two ends are steep; what tells cells apart lies between them.
      top: most ? 1.5 * most : undefined,
      markX: claim,
      markY: null,
    };
  }
  const byTime = kind === 'time';
  return {
    title: `Voltage against ${byTime ? 'time' : 'charge'}`,
    x: byTime ? { label: 'time under load', unit: 'h', digits: 3 } : CHARGE,
    y: VOLT,
    fromZero: 'x',
    drawn: curves.map(({ number, curve }) => ({
      number,
      ys: curve.voltageV,
      xs: byTime ? curve.timeS.map((t) => (t - curve.timeS[0]!) / 3600) : curve.chargeAh,
    })),
    markX: byTime ? null : claim,
    markY: cutoff,
  };
}

/** What a picture shows as CSV: cell, abscissa, ordinate. */
export function pictureTable({ x, y, drawn }: CurvePicture): string {
  const name = ({ label, unit }: Axis) => `${label.replaceAll(' ', '_')}_${unit}`;
  return [
    `cell,${name(x)},${name(y)}`,
    ...drawn.flatMap(({ number, xs, ys }) =>
      Array.from(xs, (at, i) =>
        [number, at.toFixed(x.digits + 1), ys[i]!.toFixed(y.digits + 1)].join(','),
      ),
    ),
    '',
  ].join('\n');
}

/** Thinned discharges as CSV. */
export function curveTable(curves: readonly CellCurve[]): string {
  return [
    'cell,time_s,charge_Ah,voltage_V',
    ...curves.flatMap(({ number, curve }) =>
      Array.from(curve.timeS, (t, i) =>
        [number, t.toFixed(1), curve.chargeAh[i]!.toFixed(4), curve.voltageV[i]!.toFixed(4)].join(
          ',',
        ),
      ),
    ),
    '',
  ].join('\n');
}
