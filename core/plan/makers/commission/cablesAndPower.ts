import { baysOf } from '../../../unit/state';
import type { Commission } from './commission';

/** Extensions cabled in their order, every plug looked at twice. @returns the steps after which it may be switched on */
export function cablesAndPower(
  { unit, draft: { add, under } }: Commission,
  fits: readonly string[],
): readonly string[] {
  const bays = baysOf(unit);
  under('Cables and power');
  const cabled: string[] = [];
  const extensions = unit.enclosures.slice(1);
  if (extensions.length > 0)
    cabled.push(
      add({
        id: 'card',
        title: 'Check that the controller card for extensions is in the head, fully home',
        why: 'Extensions are cabled to a card of their own; without it the head does not see them.',
        caution: 'Opening the head: switch off and unplug every supply first.',
      }),
    );
  for (const [i, extension] of extensions.entries()) {
    const from = i === 0 ? (unit.enclosures[0]?.name ?? 'the head') : (extensions[i - 1]?.name ?? '');
    cabled.push(
      add({
        id: `cable-${String(i + 1)}`,
        kind: 'act',
        title: `Cable ${from} to ${extension.name}, dial ${String(extension.dial ?? i + 1)}`,
        why: 'Plug the right way up and fully home. Its own number on the dial tells it apart from behind the rack.',
        after: cabled.slice(-1),
      }),
    );
  }
  cabled.push(
    add({
      id: 'look-again',
      title: 'A second look at every power and data plug',
      why: 'A plug that is half in works until the first warm day.',
      after: [...fits, ...cabled],
    }),
  );
  cabled.push(
    add({
      id: 'supplies',
      title:
        unit.enclosures.length > 1 || bays.length >= 12
          ? 'Both supplies of every enclosure plugged in'
          : 'Supply plugged in, on a protected outlet',
      why: 'With one of two supplies dead an alarm sounds: that is its only meaning. There is a button for it.',
      after: cabled.slice(-1),
    }),
  );
  return cabled;
}
