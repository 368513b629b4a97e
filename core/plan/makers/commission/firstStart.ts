import { bayShort } from '../../../unit/bayName';
import { drivesExpected } from '../../../unit/state';
import { boxPower, countDrives } from '../boxSteps';
import type { Commission } from './commission';

/** Switched on, waited for, found, and every drive counted. @returns the steps after which a pool may be made */
export function firstStart(
  { unit, wish, all, isClosed, draft: { add, under } }: Commission,
  ready: readonly string[],
): { readonly found: string; readonly counted: readonly string[] } {
  const { growth, service } = unit.profile;
  const waits = service.waits ?? {};
  const [head, ...extensions] = unit.enclosures;
  under('First start');
  const powered = extensions.map((extension, i) => add({ ...boxPower(extension, i + 1), after: ready }));
  const start = add({
    id: 'start',
    kind: 'act',
    title: `Switch ${extensions.length > 0 ? `${head?.name ?? 'the head'} on, last of all,` : 'on'} and leave its button alone until the lamps say so`,
    why: 'Odd lamps for a while are normal.',
    ...(growth.firstPowerOnDecides
      ? { caution: decides(all.length, all.map(({ bay }) => bayShort(unit, bay)).join(', ')) }
      : {}),
    does: unit.power === 'off' || isClosed ? [{ kind: 'switch-power', on: true }] : [],
    after: [...ready, ...powered],
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
  const counted = unit.enclosures.flatMap(({ name, bays }, i): string[] => {
    const expected = drivesExpected(unit, name) + wish.drives.filter(({ bay }) => bays.includes(bay)).length;
    if (expected === 0) return [];
    return [add({ ...countDrives(name, expected, i + 1, extensions.length === 0), after: [found] })];
  });
  return { found, counted };
}

/** What the first power-on does where it decides. */
function decides(count: number, bays: string): string {
  const erases = `It erases what is on ${count === 1 ? 'it' : 'them'}: bay${count === 1 ? '' : 's'} ${bays}.`;
  return count === 1
    ? `On this family the drives present at the first power-on decide the layout. One drive alone becomes a pool without protection: if a second is to stand beside it, wait for it. ${erases}`
    : `On this family the drives present at the first power-on decide the layout. All ${String(count)} go in before, or none: fitting one to try it is a trap. ${erases}`;
}
