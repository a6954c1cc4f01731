import {
  cableMohm,
  cableRiseK,
  CABLE_LIMIT_C,
  type LoadTestStep,
  type PackJudgement,
} from '@dusk-tally/core/bench';
import { FigureText } from '@/kit/figure-text';
import { Problem } from '@/kit/page';
import { Table } from '@/kit/table';

/** What one state of charge says of each cell and joint. */
export function StepResult({ step, names }: { step: LoadTestStep; names: readonly string[] }) {
  return (
    <div className="mt-3">
      {step.hotJoints.map(({ joint, celsius, aboveK }) => (
        <Problem key={joint}>
          Joint {joint} has {celsius} °C, {aboveK.toFixed(1)} K above its neighbours: stop, let it
          cool, open and clean it, tighten it as the data sheet says. Feel nothing with bare hands.
        </Problem>
      ))}
      <Table className="mt-2">
        <thead>
          <tr>
            <th>Cell</th>
            <th className="num">Sag / mV</th>
            <th className="num">ΔV / ΔI, U (k = 2)</th>
            <th className="num">Power / W</th>
            <th>
              <span className="sr-only">What can be done</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {step.cells.map(({ place, sagV, mohm, mohmU, watts, standsOut, z }) => (
            <tr key={place} className={standsOut ? 'font-semibold' : ''}>
              <td>
                {place}
                {names[place - 1] && <span className="text-quiet"> {names[place - 1]}</span>}
              </td>
              <td className="num">{(sagV * 1000).toFixed(0)}</td>
              <td className="num">
                <FigureText value={mohm} U={2 * mohmU} unit="mΩ" bound="exact" />
              </td>
              <td className="num">{watts.toFixed(0)}</td>
              <td>
                {standsOut &&
                  `stands out${z === null ? '' : ` (z ${z.toFixed(1)})`}: look at its joints first, then at the cell`}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      <p className="mt-1 text-quiet">
        Spread under load {(step.spreadV * 1000).toFixed(0)} mV. U holds the last digits of both
        voltages and 1 % of the current.
      </p>
    </div>
  );
}

/** Drop and warmth of a cable at a current; nothing where it is not described. */
export function CableResult({ mm2, metres, amps }: { mm2: number; metres: number; amps: number }) {
  if (!(mm2 > 0 && metres > 0 && amps > 0)) return null;
  const roomC = 22;
  const warmC = roomC + cableRiseK(amps, mm2);
  const mohm = cableMohm(metres, mm2, Math.min(warmC, 120));
  return (
    <p className={`mt-2 ${warmC > CABLE_LIMIT_C ? 'font-semibold text-missed' : ''}`}>
      The cable at {amps} A: {mohm.toFixed(2)} mΩ there and back, {(mohm * amps).toFixed(0)} mV and{' '}
      {((mohm / 1000) * amps ** 2).toFixed(1)} W; in still air of {roomC} °C it settles at about{' '}
      {warmC.toFixed(0)} °C.
      {warmC > CABLE_LIMIT_C && ` Above ${CABLE_LIMIT_C} °C a test is stopped: take a thicker one.`}
    </p>
  );
}

/** Torque against the data sheet’s; nothing where none was recorded. */
export function TorqueResult({ nm, modelNm }: { nm: number; modelNm: number | null }) {
  if (!(nm > 0)) return null;
  if (modelNm === null)
    return (
      <p className="mt-2 text-quiet">
        The data sheet of this model states no torque here: enter it with the model to compare.
      </p>
    );
  const off = nm / modelNm - 1;
  const wrong = Math.abs(off) > 0.1;
  return (
    <p className={`mt-2 ${wrong ? 'font-semibold text-missed' : 'text-quiet'}`}>
      The data sheet says {modelNm} N·m
      {wrong
        ? `: ${Math.abs(off * 100).toFixed(0)} % ${off > 0 ? 'more' : 'less'} was recorded. Set it right before the load is stepped.`
        : '; that was kept to within 10 %.'}
    </p>
  );
}

export function PackResult({ pack, complete }: { pack: PackJudgement | null; complete: boolean }) {
  if (!pack)
    return (
      <p className="mt-2 text-quiet">
        {complete
          ? 'Not compared: every cell of the string needs a capacity of its own first.'
          : 'With its cells named, the pack is compared with the weakest of them.'}
      </p>
    );
  return (
    <p
      className={`mt-2 border-l-4 pl-3 ${pack.says === 'agrees' ? 'border-rule' : 'border-doubt font-semibold'}`}
    >
      {pack.sentence}
    </p>
  );
}
