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
    id: 'stock',
    kind: 'record',
    title: `Take stock: write down what ${old.name} does for people`,
    why: 'Shares with their permissions, users, block volumes, schedules, services that start by themselves, machines, cards and USB devices passed through, name and addresses, and which machines count on it. Afterwards it is gone through line by line. Pools, volumes and drives stand on the record already.',
    asks: { kind: 'stock' },
    does: [{ kind: 'take-stock' }],
  });
  then({
    id: 'services',
    title:
      'Stop containers and virtual machines, switch their start by themselves off, unassign what is passed through',
    why: 'They are switched on again one by one, when everything is there.',
    maySkip: true,
  });
  then({
    id: 'told',
    title: `Tell the people who use ${old.name}`,
    why: 'When it is off, and for how long at least.',
    maySkip: true,
  });
}
