'use client';
import { format, formatDistanceToNowStrict, isToday } from 'date-fns';
import type { ReactNode } from 'react';
import { useReady } from '~/web/parts/form/useReady';

/** As much of a time as tells it apart: the hour today, the day this week, the date before. */
function shape(date: Date): string {
  if (isToday(date)) return 'HH:mm';
  return Math.abs(Date.now() - date.getTime()) < 6 * 24 * 3600e3 ? 'EEE HH:mm' : 'd MMM yyyy';
}

/** A time in the reader's own zone, or how long ago; the exact time, with its zone, stands behind it. */
export function Moment({ at, relative = false }: { readonly at: string; readonly relative?: boolean }): ReactNode {
  // The server does not know the reader's zone: it writes UTC, and the browser puts its own time in after.
  const isBrowser = useReady();
  const date = new Date(at);
  const exact = isBrowser
    ? `${format(date, 'yyyy-MM-dd HH:mm')} ${Intl.DateTimeFormat().resolvedOptions().timeZone}`
    : at;
  const text = !isBrowser
    ? at.slice(0, 16).replace('T', ' ')
    : relative
      ? formatDistanceToNowStrict(date, { addSuffix: true })
      : format(date, shape(date));
  return (
    <time dateTime={at} title={exact} suppressHydrationWarning>
      {text}
    </time>
  );
}
