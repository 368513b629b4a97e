import type { Commission } from './commission';

/** Switched on, waited for, found. @returns the step that found it */
export function firstStart({ unit, all, isClosed, draft: { add, under } }: Commission, ready: readonly string[]): string {
  const { growth, service } = unit.profile;
  const waits = service.waits ?? {};
  under('First start');
  const start = add({
    id: 'start',
    kind: 'act',
    title: 'Switch on and leave its button alone until the lamps say so',
    why: 'Odd lamps for a while are normal.',
    ...(growth.firstPowerOnDecides
      ? {
          caution: `On this family the drives present at the first power-on decide the layout. All ${String(all.length)} go in before, or none: fitting two to try it is a trap.`,
        }
      : {}),
    does: unit.power === 'off' || isClosed ? [{ kind: 'switch-power', on: true }] : [],
    after: ready,
  });
  const booted = add({
    id: 'boot',
    kind: 'wait',
    title: 'Wait until it has started and written its system to the drives',
    why: 'A minute or two to start, up to ten to write its system (common practice). Do not switch it off meanwhile.',
    hours: (waits.bootHours ?? 0.035) + (waits.firstSystemWriteHours ?? 0),
    after: [start],
  });
  const found = add({
    id: 'find',
    kind: 'record',
    title: 'Find it on the network and write its address down',
    why: 'By the last digits of its hardware address, printed on it. A question of the firewall or about a certificate is expected.',
    asks: { kind: 'text', label: 'Address, as you will reach it again' },
    does: [{ kind: 'write-down', field: 'address' }],
    after: [booted],
  });
  return found;
}
