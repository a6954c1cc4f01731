'use client';

import type { ChemistryProfile } from '@dusk-tally/core/chemistry';
import type { ProfileView } from '@dusk-tally/lab/arrivals';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Fold } from '@/kit/fold';
import { NumberField, TextField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { LabDay } from '@/kit/lab-time';
import { quantityOfHead } from '@/kit/quantity-field';
import { setProfileAct } from './arrival-acts';

/** Fields by their path in a profile, with how each is written. */
const FIELDS = [
  ['ceilingWhPerL', 'Ceiling / Wh/L'],
  ['ceilingWhPerKg', 'Ceiling / Wh/kg'],
  ['nominalV', 'Nominal / V'],
  ['chargeV', 'Charge / V'],
  ['cutoffV', 'Cut-off / V'],
  ['storageV.0', 'Storage from / V'],
  ['storageV.1', 'to / V'],
  ['fullOcvV.0', 'Full, after 1 h, from / V'],
  ['fullOcvV.1', 'to / V'],
] as const;

/** A number of a profile by its path. */
function numberAt(profile: ChemistryProfile, path: (typeof FIELDS)[number][0]): number {
  const [name, at] = path.split('.') as [keyof ChemistryProfile, string?];
  const value = profile[name] as number | [number, number];
  return typeof value === 'number' ? value : value[Number(at)]!;
}

function ProfileForm({ view, done }: { view: ProfileView; done: () => void }) {
  const { profile, entryId } = view;
  const { chemistry, label, ...numbers } = profile;
  const { storageV, fullOcvV } = numbers;
  const form = useLabForm({
    schema: 'profileInput',
    first: {
      chemistry,
      entryId,
      reason: '',
      profile: { ...numbers, storageV: [...storageV], fullOcvV: [...fullOcvV] },
    },
    act: setProfileAct,
    done,
  });
  return (
    <Form
      of={form}
      label={`Profile of ${label}`}
      act={`Keep the profile of ${label}`}
      look="plain"
      names={{ profile: 'Profile' }}
      className="mt-2 space-y-3"
    >
      <div className="grid gap-3 sm:grid-cols-5">
        {FIELDS.map(([path, words]) => (
          <NumberField
            key={path}
            name={`profile.${path}`}
            quantity={quantityOfHead(words)}
            label={
              <>
                <span className="sr-only">{label}, </span>
                {words}
              </>
            }
          />
        ))}
      </div>
      <TextField name="reason" label="Why it changes" />
    </Form>
  );
}

/** One chemistry’s profile with its history; a lead can change it with a reason. */
export function ProfileEditor({ view, mayChange }: { view: ProfileView; mayChange: boolean }) {
  const { profile, entryId, history } = view;
  const [open, setOpen] = useState(false);
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
          {FIELDS.map(([path, words]) => (
            <div key={path} className="flex gap-1.5">
              <dt className="text-quiet">{words}</dt>
              <dd>{numberAt(profile, path)}</dd>
            </div>
          ))}
        </dl>
      )}
      {open && <ProfileForm view={view} done={() => setOpen(false)} />}
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
