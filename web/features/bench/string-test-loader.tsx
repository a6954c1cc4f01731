'use client';

import dynamic from 'next/dynamic';

/** What was typed and not yet stored is kept in this browser: the form is made there. */
export const StringTestLoader = dynamic(
  () => import('./string-test-form').then(({ StringTestForm }) => StringTestForm),
  { ssr: false, loading: () => <p className="text-quiet">…</p> },
);
