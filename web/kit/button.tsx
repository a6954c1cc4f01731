import { Link } from './link';
import type { ButtonHTMLAttributes, ComponentProps } from 'react';

const SHAPE =
  'inline-flex min-h-9 items-center justify-center gap-1.5 rounded-sm px-3.5 py-1.5 font-medium disabled:opacity-50';
const LOOK = {
  primary: `${SHAPE} bg-ember text-on-ember hover:brightness-110`,
  plain: `${SHAPE} border border-strong-rule bg-raised text-ink hover:bg-wash`,
  bare: `${SHAPE} text-ink hover:bg-wash`,
};

/** One primary per screen; the rest are plain or bare. */
export function Button({
  look = 'plain',
  className = '',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: keyof typeof LOOK }) {
  return <button type="button" className={`${LOOK[look]} ${className}`} {...rest} />;
}

export function ButtonLink({
  look = 'plain',
  className = '',
  ...rest
}: ComponentProps<typeof Link> & { look?: keyof typeof LOOK }) {
  return <Link className={`${LOOK[look]} ${className}`} {...rest} />;
}
