import { mayAct } from '@dusk-tally/lab';
import { Link } from '@/kit/link';
import { labSettings, reportMark, settingsHistory } from '@dusk-tally/lab/people';
import { MarkForm } from '@/features/people/mark-form';
import { SETTING_NAMES } from '@/features/people/setting-words';
import { SettingsForm } from '@/features/people/settings-form';
import { LabMoment } from '@/kit/lab-time';
import { PageHead, Problem } from '@/kit/page';
import { Crumbs } from '@/kit/crumbs';
import { Table } from '@/kit/table';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Settings' };

export default async function SettingsPage() {
  const who = await requireActor();
  if (!mayAct(who.role, 'admin'))
    return <Problem>The lab’s settings are changed by an admin.</Problem>;
  const [settings, { lots, changes: history }, mark] = await Promise.all([
    labSettings(lab(), who, {}),
    settingsHistory(lab(), who, {}),
    reportMark(lab(), who, {}),
  ]);
  const { labName, place, currency, timeZone, guardFactor, cellPrefix, language, version } =
    settings;
  const { roomLowC, roomHighC } = settings;
  return (
    <>
      <Crumbs way={[{ href: '/lab', name: 'Lab' }]} />
      <PageHead title="Settings" lead="What the lab is called, where it is, and how it judges." />
      <SettingsForm
        key={version}
        lots={lots}
        zones={Intl.supportedValuesOf('timeZone')}
        settings={{
          labName,
          place,
          currency,
          timeZone,
          guardFactor,
          roomLowC,
          roomHighC,
          cellPrefix,
          language,
          version,
        }}
      />
      <MarkForm key={`mark ${version}`} mark={mark?.png ?? null} version={version} />
      <p className="mt-4 max-w-3xl text-quiet">
        House limits stand where they are used:{' '}
        <Link href="/lab#holds" className="underline">
          limits of holds
        </Link>
        ,{' '}
        <Link href="/lab/chemistry" className="underline">
          voltages and densities of each chemistry
        </Link>
        ,{' '}
        <Link href="/lab/channels" className="underline">
          limits of channels
        </Link>
        .
      </p>
      {history.length > 0 && (
        <section className="mt-6">
          <h2 className="mb-1 font-semibold">Changes</h2>
          <Table>
            <thead>
              <tr>
                <th>When</th>
                <th>Who</th>
                <th>What</th>
                <th>Why</th>
              </tr>
            </thead>
            <tbody>
              {history.map(({ at, person, reason, changes }) => (
                <tr key={at.toISOString()}>
                  <td>
                    <LabMoment at={at} />
                  </td>
                  <td>{person}</td>
                  <td>
                    {changes
                      .map(
                        ({ name, before, after }) =>
                          `${name === 'mark' ? 'Mark for reports' : SETTING_NAMES[name]}: ${String(before ?? 'none')} → ${String(after ?? 'none')}`,
                      )
                      .join('; ')}
                  </td>
                  <td>{reason}</td>
                </tr>
              ))}
            </tbody>
          </Table>
        </section>
      )}
    </>
  );
}
