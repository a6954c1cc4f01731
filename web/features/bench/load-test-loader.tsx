'use client';

import dynamic from 'next/dynamic';

/** What was typed is kept in this browser: the page is made there. */
export const LoadTestLoader = dynamic(
  () => import('./load-test-view').then(({ LoadTestView }) => LoadTestView),
  { ssr: false, loading: () => <p className="text-quiet">…</p> },
);
