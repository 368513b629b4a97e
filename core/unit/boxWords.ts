import { trayOf } from './bayName';
import type { Enclosure, UnitState } from './state';

/** Which bays belong together, and which stand beside. */
export interface GroupsShown {
  /** What fails by itself, as it was built: a group, a pair, or a whole pool. Empty bays of missing members are not in it. */
  readonly groups: readonly { readonly name: string; readonly bays: readonly string[] }[];
  readonly spareBays: readonly string[];
  /** Drives that work and that nothing has. */
  readonly idleBays: readonly string[];
}

/** What one tray of a box is there for. */
export interface TrayUse {
  readonly bay: string;
  readonly tray: string;
  /** Its place among the groups; left out for a spare, an idle drive, and an empty bay. */
  readonly group?: number;
  readonly use: 'group' | 'spare' | 'idle' | 'empty';
}

/** Every tray of a box, in its order. */
export function usesOfBox(
  unit: Pick<UnitState, 'enclosures'>,
  { bays }: Enclosure,
  shown: GroupsShown,
): readonly TrayUse[] {
  return bays.map((bay) => {
    const tray = trayOf(unit, bay)?.tray ?? bay;
    const group = shown.groups.findIndex((one) => one.bays.includes(bay));
    if (group >= 0) return { bay, tray, group, use: 'group' };
    return {
      bay,
      tray,
      use: shown.spareBays.includes(bay) ? 'spare' : shown.idleBays.includes(bay) ? 'idle' : 'empty',
    };
  });
}

/** A box in words: "group 3 = trays 1–8 · spares 13–16 · in no group 9–12 · empty 17–20". */
export function boxWords(unit: Pick<UnitState, 'enclosures'>, box: Enclosure, shown: GroupsShown): string {
  const uses = usesOfBox(unit, box, shown);
  const of = (is: (one: TrayUse) => boolean): string => runs(uses, is);
  const word = (list: string): string =>
    `${unit.enclosures.length > 1 ? 'tray' : 'bay'}${/[–,]/.test(list) ? 's' : ''} ${list}`;
  return [
    ...shown.groups.flatMap(({ name }, i) => {
      const trays = of(({ group }) => group === i);
      return trays === '' ? [] : `${name} = ${word(trays)}`;
    }),
    ...(
      [
        ['spare', 'spare'],
        ['idle', 'in no group'],
        ['empty', 'empty'],
      ] as const
    ).flatMap(([use, said]) => {
      const trays = of((one) => one.use === use);
      if (trays === '') return [];
      return `${use === 'spare' && /[–,]/.test(trays) ? 'spares' : said} ${trays}`;
    }),
  ].join(' · ');
}

/** "1–8, 11": trays that lie side by side in one run. */
function runs(uses: readonly TrayUse[], is: (one: TrayUse) => boolean): string {
  const found: TrayUse[][] = [];
  for (const [i, one] of uses.entries()) {
    if (!is(one)) continue;
    const before = uses[i - 1];
    if (before && is(before)) found.at(-1)?.push(one);
    else found.push([one]);
  }
  return found
    .map((run) => (run.length === 1 ? run[0]?.tray : `${run[0]?.tray ?? ''}–${run.at(-1)?.tray ?? ''}`))
    .join(', ');
}
