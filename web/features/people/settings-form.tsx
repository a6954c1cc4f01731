'use client';

import { useMemo } from 'react';
import { useWatch } from 'react-hook-form';
import { Option } from '@/kit/choice';
import { ChoiceField, KnownField, NumberField, TextField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { changeSettingsAct } from './settings-acts';
import { SETTING_NAMES, SETTING_SAYS, type SettingName } from './setting-words';

export interface Settings {
  labName: string;
  place: string;
  currency: string;
  timeZone: string;
  guardFactor: number;
  roomLowC: number | null;
  roomHighC: number | null;
  cellPrefix: string;
  language: 'en' | 'de';
  version: number;
}

const ORDER = Object.keys(SETTING_NAMES) as SettingName[];

/** What the changes typed so far would do, and why they are made. */
function Consequences({ settings, lots }: { settings: Settings; lots: number }) {
  const typed: Partial<Settings> = useWatch();
  const changed = ORDER.filter(
    (name) => String(typed[name] ?? '').trim() !== String(settings[name] ?? ''),
  );
  if (changed.length === 0) return <p className="text-quiet">Nothing is changed yet.</p>;
  return (
    <div role="status" className="rounded-sm bg-wash p-3">
      <p className="font-medium">What this changes</p>
      <ul className="list-disc pl-5">
        {[
          ...new Set(
            changed.map((name) =>
              SETTING_SAYS[name](lots, { before: settings[name], after: typed[name] }),
            ),
          ),
        ].map((says) => (
          <li key={says}>{says}</li>
        ))}
      </ul>
      <TextField name="reason" label="Why" className="mt-3" />
    </div>
  );
}

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
  const first = useMemo(() => ({ ...settings, reason: '' }), [settings]);
  const form = useLabForm({
    schema: 'settingsInput',
    first,
    act: changeSettingsAct,
    keepAs: 'settings',
  });
  return (
    <Form
      of={form}
      label="Settings"
      act="Keep the settings"
      names={SETTING_NAMES}
      className="panel max-w-3xl space-y-4 p-5"
      disabled={!form.form.formState.isDirty}
    >
      <div className="grid gap-3 sm:grid-cols-2">
        <TextField name="labName" label={SETTING_NAMES.labName} />
        <TextField name="place" label={SETTING_NAMES.place} />
        <TextField name="currency" label={SETTING_NAMES.currency} />
        <KnownField name="timeZone" label={SETTING_NAMES.timeZone} known={zones} />
        <NumberField name="guardFactor" quantity="plain" label={SETTING_NAMES.guardFactor} />
        <NumberField name="roomLowC" quantity="temperatureC" label={SETTING_NAMES.roomLowC} />
        <NumberField name="roomHighC" quantity="temperatureC" label={SETTING_NAMES.roomHighC} />
        <TextField name="cellPrefix" label={SETTING_NAMES.cellPrefix} />
        <ChoiceField name="language" label={SETTING_NAMES.language}>
          <Option value="en">English</Option>
          <Option value="de">German</Option>
        </ChoiceField>
      </div>
      <Consequences settings={settings} lots={lots} />
    </Form>
  );
}
