import { notFound } from 'next/navigation';
import { KitShow } from '@/features/kit-show/kit-show';

export const metadata = { title: 'Parts' };
export const dynamic = 'force-dynamic';

/** Every part of the interface in both themes; for development and tests. */
export default function KitPage() {
  if (process.env.DUSK_KIT !== '1' && process.env.NODE_ENV === 'production') notFound();
  return (
    <main className="grid lg:grid-cols-2">
      <h1 className="sr-only">Parts of the interface</h1>
      {(['light', 'dark'] as const).map((theme) => (
        <section key={theme} aria-label={theme} className={`${theme} bg-ground p-6 text-ink`}>
          <KitShow theme={theme} />
        </section>
      ))}
    </main>
  );
}
