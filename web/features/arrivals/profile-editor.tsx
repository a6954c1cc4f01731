'use client';

import { type ChemistryProfile } from '@dusk-tally/core/chemistry';
import type { ProfileView } from '@dusk-tally/lab/arrivals';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Problem } from '@/kit/page';
import { setProfileAct } from './arrival-acts';
import { typedNumber } from '@/kit/typed-number';
import { useAct } from '@/kit/use-act';
import { LabDay } from '@/kit/lab-time';
import { Input, Label } from '@/kit/form-parts';
import { Fold } from '@/kit/fold';
import { NumberInput, quantityOfHead } from '@/kit/quantity-field';

const FIELDS = [
  ['ceilingWhPerL', 'Ceiling / Wh/L'],
  ['ceilingWhPerKg', 'Ceiling / Wh/kg'],
  ['nominalV', 'Nominal / V'],
  ['chargeV', 'Charge / V'],
  ['cutoffV', 'Cut-off / V'],
  ['storageLow', 'Storage from / V'],
  ['storageHigh', 'to / V'],
  ['fullLow', 'Full, after 1 h, from / V'],
  ['fullHigh', 'to / V'],
] as const;
type FieldName = (typeof FIELDS)[number][0];

const numbersOf = (profile: ChemistryProfile): Record<FieldName, number> => ({
  ceilingWhPerL: profile.ceilingWhPerL,
  ceilingWhPerKg: profile.ceilingWhPerKg,
  nominalV: profile.nominalV,
  chargeV: profile.chargeV,
  cutoffV: profile.cutoffV,
  storageLow: profile.storageV[0],
  storageHigh: profile.storageV[1],
  fullLow: profile.fullOcvV[0],
  fullHigh: profile.fullOcvV[1],
});

/** One chemistry’s profile with its history; a lead can change it with a reason. */
export function ProfileEditor({ view, mayChange }: { view: ProfileView; mayChange: boolean }) {
  const { profile, entryId, history } = view;
  const numbers = numbersOf(profile);
  const [open, setOpen] = useState(false);
  const [draft, setDraft] = useState(
    () =>
      Object.fromEntries(FIELDS.map(([name]) => [name, String(numbers[name])])) as Record<
        FieldName,
        string
      >,
  );
  const [reason, setReason] = useState('');
  const { run, busy, problem, setProblem } = useAct();
  const save = () => {
    const typed = Object.fromEntries(
      FIELDS.map(([name]) => [name, typedNumber(draft[name]) ?? NaN]),
    ) as Record<FieldName, number>;
    const bad = FIELDS.find(([name]) => Number.isNaN(typed[name]));
    if (bad) return setProblem(`${bad[1]}: expected a number; found “${draft[bad[0]]}”.`);
    const { storageLow, storageHigh, fullLow, fullHigh, ...plain } = typed;
    run(
      () =>
        setProfileAct({
          chemistry: profile.chemistry,
          entryId,
          reason,
          profile: {
            ...plain,
            storageV: [storageLow, storageHigh],
            fullOcvV: [fullLow, fullHigh],
          },
        }),
      () => {
        setOpen(false);
        setReason('');
      },
    );
  };
  return (
    <section className="panel p-4" aria-label={profile.label}>
      <div className="flex flex-wrap items-baseline justify-between gap-3">
        <h2 className="font-semibold">
          {profile.label}{' '}
          <span className="font-normal text-quiet">
            {entryId === null ? (
              'house default'
            ) : (
              <>
                changed by {history[0]!.person} on <LabDay at={history[0]!.at} />:{' '}
                {history[0]!.reason}
              </>
            )}
          </span>
        </h2>
        {mayChange && (
          <Button look="bare" onClick={() => setOpen(!open)}>
            {open ? 'Leave it' : 'Change …'}
          </Button>
        )}
      </div>
      {!open && (
        <dl className="mt-1 flex flex-wrap gap-x-6 gap-y-1 tabular-nums">
          {FIELDS.map(([name, words]) => (
            <div key={name} className="flex gap-1.5">
              <dt className="text-quiet">{words}</dt>
              <dd>{numbers[name]}</dd>
            </div>
          ))}
        </dl>
      )}
      {open && (
        <form
          className="mt-2 space-y-3"
          onSubmit={(event) => {
            event.preventDefault();
            save();
          }}
        >
          <div className="grid gap-3 sm:grid-cols-5">
            {FIELDS.map(([name, words]) => (
              <Label key={name} text={words}>
                <NumberInput
                  quantity={quantityOfHead(words)}
                  text={draft[name]}
                  onText={(next) => setDraft({ ...draft, [name]: next })}
                  aria-label={`${profile.label}, ${words}`}
                />
              </Label>
            ))}
          </div>
          <Label text="Why it changes">
            <Input value={reason} onChange={(event) => setReason(event.target.value)} />
          </Label>
          <Button type="submit" disabled={busy}>
            Keep the profile of {profile.label}
          </Button>
        </form>
      )}
      {problem && <Problem>{problem}</Problem>}
      {history.length > 1 && (
        <Fold className="mt-2" title="Earlier ones">
          <ul className="mt-1 text-[0.9rem]">
            {history.slice(1).map((entry) => (
              <li key={entry.id} className="tabular-nums">
                <LabDay at={entry.at} />, {entry.person}: {entry.reason} (
                {entry.profile.ceilingWhPerL} Wh/L, {entry.profile.ceilingWhPerKg} Wh/kg, cut-off{' '}
                {entry.profile.cutoffV} V)
              </li>
            ))}
          </ul>
        </Fold>
      )}
    </section>
  );
}
