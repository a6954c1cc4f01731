import type { ReactNode } from 'react';

/** Frame of a page: one heading, at most one primary act. */
export function PageHead({
  title,
  lead,
  children,
}: {
  title: string;
  lead?: ReactNode;
  children?: ReactNode;
}) {
  return (
    <header className="mb-5 flex flex-wrap items-start justify-between gap-3">
      <div>
        <h1 className="text-2xl font-semibold tracking-tight">{title}</h1>
        {lead && <p className="mt-0.5 max-w-[70ch] text-quiet">{lead}</p>}
      </div>
      <div className="flex flex-wrap gap-2">{children}</div>
    </header>
  );
}

/** An empty place says what to do first. */
export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="panel px-6 py-10 text-center">
      <p className="font-semibold">{title}</p>
      <div className="mx-auto mt-1 max-w-[60ch] text-quiet">{children}</div>
    </div>
  );
}

/** What went wrong, what was kept, what to do. */
export function Problem({ children }: { children: ReactNode }) {
  return (
    <p role="alert" className="rounded-sm border-l-4 border-missed bg-wash px-3 py-2">
      {children}
    </p>
  );
}
