import type { RunPageView } from '@dusk-tally/lab/verdicts';
import { expandedUncertainty, formatNumber, scaledEstimate } from '@dusk-tally/core/units';
import type { ReactNode } from 'react';
import { FigureText } from '@/kit/figure-text';

const WAY_WORDS = {
  integrated: 'Current integrated over time',
  counter: 'The instrument’s own counter',
  typed: 'Typed off the tester',
};

/** The same charge counted in several ways, side by side. */
export function ChargesPanel({ charges }: { charges: RunPageView['charges'] }) {
  if (!charges) return null;
  return (
    <section className="panel p-4" aria-label="The same charge, counted">
      <h2 className="font-semibold">The same charge, counted</h2>
      <table className="table-plain mt-1 w-full">
        <tbody>
          {charges.ways.map(({ way, ah, expandedAh }) => (
            <tr key={way}>
              <td>{WAY_WORDS[way]}</td>
              <td className="num">
                <FigureText value={ah} U={expandedAh} unit="Ah" bound="exact" decimals={3} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {charges.findings.length === 0 ? (
        <p className="mt-1 text-quiet">
          They agree within {formatNumber(100 * charges.apart, 2)} %; more than 0.5 % would be worth
          a look.
        </p>
      ) : (
        charges.findings.map(({ text }) => (
          <p key={text} className="mt-1 border-l-4 border-doubt pl-2">
            {text}
          </p>
        ))
      )}
    </section>
  );
}

/** What came out behind an inverter. */
export function InverterPanel({
  inverter,
  reason,
}: {
  inverter: RunPageView['inverter'];
  reason: string | null;
}) {
  if (!inverter && !reason) return null;
  return (
    <section className="panel p-4" aria-label="Through the inverter">
      <h2 className="font-semibold">Through the inverter</h2>
      {reason && <p className="mt-1 border-l-4 border-doubt pl-2">{reason}</p>}
      {inverter && (
        <table className="table-plain mt-1 w-full">
          <tbody>
            <tr>
              <td>Energy from the cells (DC)</td>
              <td className="num">
                {formatNumber(inverter.losses.inputs[0]!.value as number, 2)} Wh
              </td>
            </tr>
            <tr>
              <td>Energy behind the inverter (AC)</td>
              <td className="num">
                {formatNumber(inverter.losses.inputs[1]!.value as number, 2)} Wh
              </td>
            </tr>
            <tr>
              <td>Efficiency</td>
              <td className="num">
                <FigureText
                  value={100 * inverter.efficiency.value}
                  U={expandedUncertainty(scaledEstimate(inverter.efficiency, 100))}
                  unit="%"
                  bound="exact"
                />
              </td>
            </tr>
            <tr>
              <td>
                Lost in it
                {inverter.meanLossW !== null && (
                  <span className="text-quiet">
                    , {formatNumber(inverter.meanLossW, 1)} W on average
                  </span>
                )}
              </td>
              <td className="num">
                <FigureText
                  value={inverter.losses.value}
                  U={expandedUncertainty(inverter.losses)}
                  unit="Wh"
                  bound="exact"
                />
              </td>
            </tr>
          </tbody>
        </table>
      )}
    </section>
  );
}

/** ΔV / ΔI of every cell of a string between two loads. */
export function StringPanel({
  string,
  names = [],
  children,
}: {
  string: NonNullable<RunPageView['run']['summary']['string']>;
  /** Numbers of the cells, in order, where they are known. */
  names?: readonly string[];
  children?: ReactNode;
}) {
  const bad = string.cells.flatMap(({ standsOut }, i) => (standsOut ? [i + 1] : []));
  return (
    <section className="panel p-4" aria-label="The string between two loads">
      <h2 className="font-semibold">The string between two loads</h2>
      <p className="text-quiet">
        ΔV / ΔI from {formatNumber(string.lowA, 2)} A to {formatNumber(string.highA, 2)} A at{' '}
        {formatNumber(string.atS, 0)} s; each figure holds the joint unless voltage was read on the
        terminals.
      </p>
      <table className="table-plain mt-1 w-full">
        <thead>
          <tr>
            <th>Cell of the string</th>
            <th className="num">Resistance, U (k = 2)</th>
            <th className="num">z</th>
          </tr>
        </thead>
        <tbody>
          {string.cells.map((cell, i) => (
            <tr key={i} className={cell.standsOut ? 'text-doubt' : undefined}>
              <td>
                {i + 1}
                {names[i] && <span className="text-quiet"> {names[i]}</span>}
                {cell.standsOut && ' stands out'}
              </td>
              <td className="num">
                <FigureText value={cell.mohm} U={cell.expandedMohm} unit="mΩ" bound="exact" />
              </td>
              <td className="num">{cell.z === null ? '–' : formatNumber(cell.z, 1)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {bad.length > 0 && (
        <p className="mt-1 border-l-4 border-doubt pl-2">
          {bad.length > 1 && bad.some((n) => bad.includes(n + 1))
            ? `Cells ${bad.join(', ')} stand out and are neighbours: they share a bar. Suspect the joint, re-tighten and repeat.`
            : `Cell ${bad.join(', ')}: re-tighten its joints and repeat before blaming it.`}
        </p>
      )}
      {children}
    </section>
  );
}
