import { LoadTestLoader } from '@/features/bench/load-test-loader';
import { requireActor } from '@/lib/session';

export const metadata = { title: 'Load test' };

export default async function LoadTestPage() {
  await requireActor();
  return <LoadTestLoader />;
}
