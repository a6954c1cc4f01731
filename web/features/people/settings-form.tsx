'use client';

import { useState } from 'react';
import { Button } from '@/kit/button';
import { Input, Label, Suggesting } from '@/kit/form-parts';
import { Problem } from '@/kit/page';
import { NumberInput } from '@/kit/quantity-field';
import { typedNumber } from '@/kit/typed-number';
import { useAct } from '@/kit/use-act';
import { changeSettingsAct } from './settings-acts';
import { SETTING_NAMES, SETTING_SAYS, type SettingName } from './setting-words';

export interface Settings {
  labName: string;
  place: string;
  currency: string;
  timeZone: string;
  guardFactor: number;
  cellPrefix: string;
  version: number;
}

const ORDER = Object.keys(SETTING_NAMES) as SettingName[];

/** The lab’s settings, with what each change would do said before it is kept. */
export function SettingsForm({
  settings,
  lots,
  zones,
}: {
  settings: Settings;
  /** How many lots a change may concern. */
  lots: number;
  /** Time zones the server knows. */
  zones: readonly string[];
}) {
  const { run, busy, problem, setProblem } = useAct();
  const stored: Record<SettingName, string> = {
    ...settings,
    guardFactor: String(settings.guardFactor),
  };
  const [typed, setTyped] = useState<Partial<Record<SettingName, string>>>({});
  const [reason, setReason] = useState('');
  const shown = { ...stored, ...typed };
  const changed = ORDER.filter((name) => shown[name].trim() !== stored[name]);
  const set = (name: SettingName) => (text: string) => setTyped({ ...typed, [name]: text });
  const save = () => {
    const guardFactor = typedNumber(shown.guardFactor);
    if (guardFactor === null || Number.isNaN(guardFactor))
      return setProblem(`Guard factor: expected a number; found “${shown.guardFactor}”.`);
    const { labName, place, currency, timeZone, cellPrefix } = shown;
    const { version } = settings;
    run(
      () =>
        changeSettingsAct({
          version,
          labName,
          place,
          currency,
          timeZone,
          guardFactor,
          cellPrefix,
          reason,
        }),
      () => {
        setTyped({});
        setReason('');
      },
    );
  };
  const field = (name: SettingName) => {
    if (name === 'guardFactor')
      return <NumberInput quantity="plain" text={shown[name]} onText={set(name)} />;
    if (name === 'timeZone')
      return <Suggesting value={shown[name]} onValue={set(name)} known={zones} />;
    return <Input value={shown[name]} onChange={(event) => set(name)(event.target.value)} />;
  };
  return (
    <form
      className="panel max-w-3xl space-y-4 p-5"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <div className="grid gap-3 sm:grid-cols-2">
        {ORDER.map((name) => (
          <Label key={name} text={SETTING_NAMES[name]}>
            {field(name)}
          </Label>
        ))}
      </div>
      {changed.length > 0 ? (
        <div role="status" className="rounded-sm bg-wash p-3">
          <p className="font-medium">What this changes</p>
          <ul className="list-disc pl-5">
            {changed.map((name) => (
              <li key={name}>{SETTING_SAYS[name](lots)}</li>
            ))}
          </ul>
          <Label text="Why" className="mt-3">
            <Input value={reason} onChange={(event) => setReason(event.target.value)} />
          </Label>
        </div>
      ) : (
        <p className="text-quiet">Nothing is changed yet.</p>
      )}
      {problem && <Problem>{problem}</Problem>}
      <Button look="primary" type="submit" disabled={busy || changed.length === 0}>
        Keep the settings
      </Button>
    </form>
  );
}
