import Link from '~/web/parts/frame/Link';
import type { ButtonHTMLAttributes, ReactNode } from 'react';

export type Look = 'main' | 'plain' | 'grave';

const LOOKS: Record<Look, string> = {
  main: 'bg-action text-on-action border-action hover:brightness-110',
  plain: 'bg-surface text-ink border-line hover:bg-chosen',
  grave: 'bg-surface text-thinned border-thinned hover:bg-thinned-ground',
};

const SHAPE =
  'inline-flex min-h-9 items-center justify-center gap-2 rounded-[2px] border px-3 py-1.5 text-base font-semibold disabled:cursor-not-allowed disabled:opacity-60 max-sm:min-h-11';

export function Button({
  look = 'plain',
  className = '',
  type = 'button',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { readonly look?: Look }): ReactNode {
  return <button type={type} className={`${SHAPE} ${LOOKS[look]} ${className}`} {...rest} />;
}

export function ButtonLink({
  look = 'plain',
  href,
  children,
}: {
  readonly look?: Look;
  readonly href: string;
  readonly children: ReactNode;
}): ReactNode {
  return (
    <Link href={href} className={`${SHAPE} ${LOOKS[look]}`}>
      {children}
    </Link>
  );
}
