import type { Commission } from './commission';

/** What is closed, set and tested before anything is made. @returns the step after which nothing is updated any more */
export function settingUp({ unit, draft: { add, under } }: Commission, found: string): string {
  const { software } = unit.profile;
  under('Setting up');
  if (software.factoryAccount !== 'none')
    add({
      id: 'administrator',
      title: 'Make an administrator of your own and close the factory account',
      why:
        software.factoryAccount === 'blank'
          ? 'The factory account has no password.'
          : 'Its name and password are in every manual of the family.',
      does: [{ kind: 'confirm', check: 'factory-password-changed' }],
      after: [found],
    });
  add({
    id: 'name-and-time',
    title: `Name it ${unit.name}, set time and time server, fixed or leased address`,
    why: 'In a domain, the domain’s own time server. Wrong time breaks sign-ins, schedules and the order of every log.',
    does: [{ kind: 'confirm', check: 'time-set' }],
    after: [found],
  });
  add({
    id: 'shares-closed',
    title: 'Close default public shares; decide whether remote access and a maker’s account are wanted at all',
    why: 'What is not needed is not left open.',
    does: [{ kind: 'confirm', check: 'shares-closed' }],
    after: [found],
  });
  add({
    id: 'alarm-mail',
    title: 'Set mail for warnings and send a test: tick when it has arrived',
    why: 'Most often skipped at set-up, and missed on the day a drive fails.',
    does: [{ kind: 'confirm', check: 'alarm-mail-tested' }],
    after: [found],
  });
  add({
    id: 'shelf-test',
    title: 'Have the shelf send you a test too (Messages, who is told): tick when it has arrived',
    why: 'It tells of what a unit does not: work that is overdue, a copy that grew old, a unit that has gone silent.',
    after: [found],
  });
  const firmware = add({
    id: 'firmware',
    kind: 'record',
    title: 'Update firmware, again and again until none is offered',
    why: 'One update may lead to the next. Nothing is copied while it runs.',
    asks: { kind: 'text', label: 'Version it ended with' },
    does: [{ kind: 'update-firmware' }],
    after: [found],
  });
  return firmware;
}
