import { mayAct } from '@dusk-tally/lab';
import { listProfiles } from '@dusk-tally/lab/arrivals';
import { ProfileEditor } from '@/features/arrivals/profile-editor';
import { PageHead } from '@/kit/page';
import { Crumbs } from '@/kit/crumbs';
import { lab } from '@/lib/lab';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Chemistry profiles' };

export default async function ChemistryPage() {
  const who = await requireActor();
  const profiles = await listProfiles(lab(), who, {});
  return (
    <>
      <Crumbs way={[{ href: '/lab', name: 'Lab' }]} />
      <PageHead
        title="Chemistry profiles"
        lead="What a claim inherits last, and the ceilings no claim can pass. A change keeps the earlier ones, with who and why."
      />
      <div className="space-y-4">
        {profiles.map((view) => (
          <ProfileEditor
            key={`${view.profile.chemistry}-${view.entryId}`}
            view={view}
            mayChange={mayAct(who.role, 'lead')}
          />
        ))}
      </div>
    </>
  );
}
