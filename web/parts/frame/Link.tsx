import NextLink from 'next/link';
import type { ComponentProps, ReactNode } from 'react';

/**
 * A link inside the application. Nothing is fetched before it is followed: what was fetched when it came into sight can be
 * one drive too old, and a page of twenty links would ask the server twenty times over for one visit.
 */
export default function Link(props: Omit<ComponentProps<typeof NextLink>, 'prefetch'>): ReactNode {
  return <NextLink {...props} prefetch={false} />;
}
