import type { RunPageView } from '@dusk-tally/lab/verdicts';
import { expandedUncertainty, formatNumber, scaledEstimate } from '@dusk-tally/core/units';
import { FigureText } from '@/kit/figure-text';
import { Table } from '@/kit/table';

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
      <Table className="mt-1 w-full">
        <tbody>
          {charges.ways.map(({ way, ah, expandedAh }) => (
            <tr key={way}>
              <td>{WAY_WORDS[way]}</td>
              <td className="num">
                <FigureText value={ah} U={expandedAh} unit="Ah" bound="exact" />
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
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
        <Table className="mt-1 w-full">
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
        </Table>
      )}
    </section>
  );
}
