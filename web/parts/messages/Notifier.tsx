'use client';
import { useEffect } from 'react';
import { severityOf } from '~/core/tell/severity';
import { api, type AnswerOf } from '~/web/parts/form/api';
import { mayNotify } from './notifies';

const EVERY_MS = 20_000;

type Causes = AnswerOf<'GET /causes'>['causes'];

/** Shows a notification of every cause that begins or gets worse while a page is open. */
export function Notifier(): null {
  useEffect(() => {
    if (!mayNotify() || Notification.permission !== 'granted') return;
    let known: ReadonlySet<string> | undefined;
    const look = async (): Promise<void> => {
      const sent = await api('GET /causes', {});
      if (sent.kind === 'refused') return;
      const { causes } = sent.answer;
      for (const cause of known ? news(causes, known) : []) show(cause);
      known = new Set(causes.map(keyOf));
    };
    void look();
    const timer = setInterval(() => void look(), EVERY_MS);
    return () => clearInterval(timer);
  }, []);
  return null;
}

function keyOf({ id, changedAt }: Causes[number]): string {
  return `${id} ${changedAt}`;
}

/** What was not there before, and is more than care. */
export function news(causes: Causes, known: ReadonlySet<string>): Causes {
  return causes.filter(
    (cause) => !known.has(keyOf(cause)) && cause.seenAt === null && severityOf(cause.code) !== 'care',
  );
}

function show({ id, unit, title, reason }: Causes[number]): void {
  const shown = new Notification(title, { body: reason, tag: id });
  shown.onclick = () => {
    window.focus();
    location.assign(`/units/${unit}`);
  };
}
