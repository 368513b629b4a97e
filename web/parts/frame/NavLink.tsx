'use client';
import Link from '~/web/parts/frame/Link';
import { usePathname } from 'next/navigation';
import type { ReactNode } from 'react';

export function NavLink({
  href,
  name,
  hint,
}: {
  readonly href: string;
  readonly name: string;
  readonly hint: string;
}): ReactNode {
  const path = usePathname();
  const isPlan = /^\/units\/[^/]+\/(plans|commission)/.test(path);
  const isHere =
    href === '/'
      ? path === '/' || (path.startsWith('/units/') && !isPlan)
      : path.startsWith(href) || (href === '/plans' && isPlan);
  return (
    <Link
      href={href}
      aria-current={isHere ? 'page' : undefined}
      className={`flex min-h-[38px] items-center justify-between gap-3 border-l-[3px] px-[15px] whitespace-nowrap max-md:min-h-11 max-md:border-b-[3px] max-md:border-l-0 ${isHere ? 'border-[var(--board-from)] bg-side-strong text-on-side' : 'border-transparent text-on-side-muted hover:text-on-side'}`}
    >
      {name}
      <kbd className="font-mono text-xs uppercase max-md:hidden" aria-hidden>
        {hint}
      </kbd>
    </Link>
  );
}
