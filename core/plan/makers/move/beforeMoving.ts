import { copyChecked } from '../copyChecked';
import type { PlanDraft } from '../draftPlan';
import { poolsOf } from '../../../unit/state';
import type { BothUnits } from './bothUnits';

/** The first chapter of every move: the manuals, the copy, what stands in the old unit, and its configuration. */
export function beforeMoving({ old, newer }: BothUnits, { under, then }: PlanDraft): void {
  under('Before');
  then({
    id: 'manual',
    title: `Read what the makers’ manuals of ${old.name} and ${newer.name} say of moving`,
    why: 'They come before this plan, everywhere. Look there whether the old unit wants newer firmware first.',
  });
  for (const [i, { id }] of poolsOf(old).entries())
    then({ ...copyChecked(old, id), id: i === 0 ? 'copy' : `copy-${String(i + 1)}` });
  then({
    id: 'healthy',
    title: `Look at the page of ${old.name}: every pool healthy, nothing running`,
    why: 'What is moved thin arrives thin, or not at all; work that is broken off begins anew, or leaves a half.',
    asks: { kind: 'page' },
  });
  if (old.profile.software.configurationExport)
    then({
      id: 'configuration',
      title: `Export the configuration of ${old.name}, and keep it on another machine`,
      why: 'Users, shares, permissions and schedules as they are now: the list what is there is compared with afterwards.',
    });
}

/** What the old unit does for people, switched off one after the other before it stops; and what it must be asked about it later. */
export function servicesNoted({ old }: BothUnits, { then }: PlanDraft): void {
  then({
    id: 'services',
    kind: 'record',
    title: 'Write down what runs on it and starts by itself',
    why: 'Services, schedules, containers and virtual machines, cards and USB devices passed through to them, and which machines count on it. Stop containers and machines, switch their start by themselves off, and unassign what is passed through: they are switched on again one by one.',
    asks: { kind: 'text', label: `What runs on ${old.name}, and what depends on it` },
    does: [{ kind: 'note' }],
  });
  then({
    id: 'told',
    title: `Tell the people who use ${old.name}`,
    why: 'When it is off, and for how long at least.',
    maySkip: true,
  });
}
