import { cable, CARD, hasPairs, LOOK_AGAIN, supplies } from '../boxSteps';
import type { Commission } from './commission';

/** Extensions cabled in their order, every plug looked at twice. @returns the steps after which it may be switched on */
export function cablesAndPower(
  { unit, draft: { add, under } }: Commission,
  fits: readonly string[],
): readonly string[] {
  under('Cables and power');
  const cabled: string[] = [];
  const extensions = unit.enclosures.slice(1);
  if (extensions.length > 0) cabled.push(add(CARD));
  for (const [i, extension] of extensions.entries()) {
    const from = i === 0 ? (unit.enclosures[0]?.name ?? 'the head') : (extensions[i - 1]?.name ?? '');
    cabled.push(add({ ...cable(from, extension, i + 1), after: cabled.slice(-1) }));
  }
  cabled.push(add({ ...LOOK_AGAIN, after: [...fits, ...cabled] }));
  cabled.push(add({ ...supplies(hasPairs(unit)), after: cabled.slice(-1) }));
  return cabled;
}
