import NextLink from 'next/link';
import type { ComponentProps } from 'react';

/**
 * A way to another page of the lab. It is asked for when somebody goes there, not before: pages are
 * made anew for who looks, and a page with fifty links would ask the server fifty times.
 */
export function Link(props: ComponentProps<typeof NextLink>) {
  return <NextLink prefetch={false} {...props} />;
}
