import { Link } from './link';
import { Fragment } from 'react';

/** Where a page stands: the places above it, the nearest last. */
export function Crumbs({ way }: { way: readonly { href: string; name: string }[] }) {
  return (
    <nav aria-label="Where this is" className="mb-1 text-[0.85rem] text-quiet print:hidden">
      {way.map(({ href, name }, i) => (
        <Fragment key={href}>
          {i > 0 && (
            <span aria-hidden className="mx-1.5">
              ›
            </span>
          )}
          <Link href={href} className="rounded-sm underline-offset-2 hover:underline">
            {name}
          </Link>
        </Fragment>
      ))}
    </nav>
  );
}
