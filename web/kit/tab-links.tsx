import { Link } from './link';

/** Pages that belong together, as a row of links; each has its own address. */
export function TabLinks({
  label,
  tabs,
  current,
  className = '',
}: {
  /** What the pages are, as read aloud. */
  label: string;
  tabs: readonly { href: string; name: string }[];
  /** Address of the one that is shown. */
  current: string;
  className?: string;
}) {
  return (
    <nav aria-label={label} className={`flex flex-wrap gap-1 ${className}`}>
      {tabs.map(({ href, name }) => (
        <Link
          key={href}
          href={href}
          aria-current={href === current ? 'page' : undefined}
          scroll={false}
          className={`-mb-px inline-flex min-h-9 items-center border-b-2 px-3.5 py-1.5 pointer-coarse:min-h-11 ${href === current ? 'border-ember font-semibold' : 'border-transparent text-quiet hover:text-ink'}`}
        >
          {name}
        </Link>
      ))}
    </nav>
  );
}
