'use client';

import {
  cableMohm,
  cableRiseK,
  CABLE_LIMIT_C,
  loadTestStep,
  type LoadTestStep,
} from '@dusk-tally/core/bench';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { Label } from '../arrivals/form-parts';

interface Draft {
  pct: string;
  lowA: string;
  highA: string;
  lowV: string;
  highV: string;
  jointC: string;
}

const FRESH: Draft = { pct: '70', lowA: '30', highA: '60', lowV: '', highV: '', jointC: '' };
const KEY = 'dusk-load-test';

const numberOf = (text: string) =>
  text.trim() === '' ? NaN : Number(text.trim().replace(',', '.'));
/** `3.281 3.279` or one a line; a decimal comma is taken where no point stands. */
const numbersOf = (text: string): number[] =>
  text
    .trim()
    .split(/[\s;]+/)
    .filter(Boolean)
    .map((part) => (part === '-' ? NaN : Number(part.replace(',', '.'))));

function judge(draft: Draft): { step: LoadTestStep | null; problem: string | null } {
  if (draft.lowV.trim() === '' && draft.highV.trim() === '') return { step: null, problem: null };
  try {
    return {
      step: loadTestStep({
        stateOfChargePct: numberOf(draft.pct),
        lowA: numberOf(draft.lowA),
        highA: numberOf(draft.highA),
        lowV: numbersOf(draft.lowV),
        highV: numbersOf(draft.highV),
        jointC: numbersOf(draft.jointC),
      }),
      problem: null,
    };
  } catch (error) {
    return { step: null, problem: (error as Error).message };
  }
}

function Result({ step }: { step: LoadTestStep }) {
  return (
    <div className="mt-3">
      {step.hotJoints.map(({ joint, celsius, aboveK }) => (
        <Problem key={joint}>
          Joint {joint} has {celsius} °C, {aboveK.toFixed(1)} K above its neighbours: stop, let it
          cool, open and clean it, tighten it as the data sheet says. Feel nothing with bare hands.
        </Problem>
      ))}
      <table className="table-plain mt-2">
        <thead>
          <tr>
            <th>Cell</th>
            <th className="num">Sag / mV</th>
            <th className="num">ΔV / ΔI / mΩ</th>
            <th className="num">Power / W</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {step.cells.map(({ place, sagV, mohm, watts, standsOut, z }) => (
            <tr key={place} className={standsOut ? 'font-semibold' : ''}>
              <td>{place}</td>
              <td className="num">{(sagV * 1000).toFixed(0)}</td>
              <td className="num">{mohm.toFixed(3)}</td>
              <td className="num">{watts.toFixed(0)}</td>
              <td>
                {standsOut &&
                  `stands out${z === null ? '' : ` (z ${z.toFixed(1)})`}: look at its joints first, then at the cell`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-quiet">Spread under load {(step.spreadV * 1000).toFixed(0)} mV.</p>
    </div>
  );
}

/** Drop and warmth of a cable at a current. */
function Cable() {
  const [form, setForm] = useState({ mm2: '16', metres: '1.5', amps: '60', roomC: '22' });
  const [mm2, metres, amps, roomC] = [form.mm2, form.metres, form.amps, form.roomC].map(
    numberOf,
  ) as [number, number, number, number];
  const fits = mm2 > 0 && metres > 0 && amps > 0;
  const warmC = fits ? roomC + cableRiseK(amps, mm2) : NaN;
  const mohm = fits ? cableMohm(metres, mm2, Math.min(warmC, 120)) : NaN;
  return (
    <section className="panel p-4" aria-label="Cable">
      <h2 className="font-semibold">Cable</h2>
      <div className="mt-2 grid gap-3 sm:grid-cols-4">
        {(
          [
            ['mm2', 'Copper / mm²'],
            ['metres', 'Length, one way / m'],
            ['amps', 'Current / A'],
            ['roomC', 'Room / °C'],
          ] as const
        ).map(([name, words]) => (
          <Label key={name} text={words}>
            <input
              className="field"
              inputMode="decimal"
              value={form[name]}
              onChange={(event) => setForm({ ...form, [name]: event.target.value })}
            />
          </Label>
        ))}
      </div>
      {fits && (
        <p className={`mt-2 ${warmC > CABLE_LIMIT_C ? 'font-semibold text-missed' : ''}`}>
          {mohm.toFixed(2)} mΩ there and back: {((mohm * amps) / 1).toFixed(0)} mV and{' '}
          {((mohm / 1000) * amps ** 2).toFixed(1)} W; in still air it settles at about{' '}
          {warmC.toFixed(0)} °C.
          {warmC > CABLE_LIMIT_C &&
            ` Above ${CABLE_LIMIT_C} °C a test is stopped: take a thicker one.`}
        </p>
      )}
    </section>
  );
}

/** Load test of a string: readings at two loads and one or several states of charge. */
export function LoadTestView() {
  const [drafts, setDrafts] = useState<Draft[]>(() => {
    try {
      return (
        (JSON.parse(
          (typeof localStorage === 'undefined' ? null : localStorage.getItem(KEY)) ?? 'null',
        ) as Draft[] | null) ?? [FRESH]
      );
    } catch {
      return [FRESH];
    }
  });
  const keep = (next: Draft[]) => {
    setDrafts(next);
    localStorage.setItem(KEY, JSON.stringify(next));
  };
  return (
    <div className="space-y-4">
      <p className="max-w-[85ch]">
        Step the load, read each cell on its own terminals at both currents, and the temperature of
        terminals and bars at the higher one. Torque first, as the data sheet says. Joints and
        cables heat first: stop at a cable of {CABLE_LIMIT_C} °C. Local codes and a licensed
        practitioner come first.
      </p>
      {drafts.map((draft, i) => {
        const { step, problem } = judge(draft);
        const set = (name: keyof Draft) => (event: { target: { value: string } }) =>
          keep(drafts.map((one, k) => (k === i ? { ...one, [name]: event.target.value } : one)));
        return (
          <section key={i} className="panel p-4" aria-label={`Readings at ${draft.pct} %`}>
            <div className="grid gap-3 sm:grid-cols-3">
              <Label text="State of charge / %">
                <input
                  className="field"
                  inputMode="decimal"
                  value={draft.pct}
                  onChange={set('pct')}
                />
              </Label>
              <Label text="First load / A">
                <input
                  className="field"
                  inputMode="decimal"
                  value={draft.lowA}
                  onChange={set('lowA')}
                />
              </Label>
              <Label text="Second load / A">
                <input
                  className="field"
                  inputMode="decimal"
                  value={draft.highA}
                  onChange={set('highA')}
                />
              </Label>
              <Label text="Cells at the first load / V">
                <textarea
                  className="field min-h-20 tabular-nums"
                  placeholder="3.280 3.281 3.279 …"
                  value={draft.lowV}
                  onChange={set('lowV')}
                />
              </Label>
              <Label text="Cells at the second load / V">
                <textarea
                  className="field min-h-20 tabular-nums"
                  placeholder="3.262 3.263 3.260 …"
                  value={draft.highV}
                  onChange={set('highV')}
                />
              </Label>
              <Label text="Joints then / °C, in order, - for none">
                <textarea
                  className="field min-h-20 tabular-nums"
                  placeholder="24 24.5 25 …"
                  value={draft.jointC}
                  onChange={set('jointC')}
                />
              </Label>
            </div>
            {problem && <Problem>{problem}</Problem>}
            {step && <Result step={step} />}
          </section>
        );
      })}
      <div className="flex gap-2">
        <Button onClick={() => keep([...drafts, { ...FRESH, pct: '40' }])}>
          Another state of charge
        </Button>
        <Button look="bare" onClick={() => keep([FRESH])}>
          Begin again
        </Button>
      </div>
      <Cable />
    </div>
  );
}
