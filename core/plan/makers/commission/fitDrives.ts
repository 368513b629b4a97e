import { formatBytes } from '../../../quantity/formatBytes';
import { bayName, bayShort } from '../../../unit/bayName';
import { serviceOf } from '../../../unit/serviceOf';
import type { Commission } from './commission';

/** Every drive checked before it goes in, and fitted by its serial. @returns the steps that fit them */
export function fitDrives({ unit, wish, all, isClosed, draft: { add, under } }: Commission): readonly string[] {
  const { opensCase } = serviceOf(unit);
  under('Drives');
  const checks: string[] = [];
  const models = [...new Set(wish.drives.flatMap(({ model }) => model ?? []))];
  const words = models.map(
    (model) =>
      `${model}: ${{ works: 'on your list, works', avoid: 'on your list as one to avoid', none: 'not on your list' }[wish.tested?.(model) ?? 'none']}`,
  );
  checks.push(
    add({
      id: 'tested',
      title: 'Check every model against the maker’s list of tested drives and your own',
      why:
        words.length === 0
          ? 'A drive that is on neither list may work, and may drop out under load.'
          : `${words.join('; ')}. The maker’s list comes first.`,
      ...(models.some((model) => wish.tested?.(model) === 'avoid')
        ? { caution: 'One of these models is on your own list as one to avoid.' }
        : {}),
    }),
  );
  const shingled = wish.drives.filter(({ media }) => media === 'shingled').map(({ bay }) => bay);
  checks.push(
    add({
      id: 'kind',
      title: 'Check that no drive is shingled',
      why: 'Shingled (SMR) drives stall for minutes under a rebuild. The label does not say it; the data sheet does. A drive taken out of an external case is of unknown kind.',
      ...(shingled.length === 0
        ? {}
        : {
            caution: `Planned as shingled: bay ${shingled.map((bay) => bayShort(unit, bay)).join(', ')}. Keep such drives out of a parity pool.`,
          }),
    }),
  );
  checks.push(
    add({
      id: 'partitions',
      title: 'Make sure no drive carries old partitions or files you still need',
      why: 'Some units refuse such drives to protect what is on them; others wipe them without a word.',
    }),
  );
  if (isClosed)
    checks.push(
      add({
        id: 'unplug',
        kind: 'act',
        title: opensCase
          ? 'Switch off and unplug every supply before the case is opened'
          : 'Leave the unit switched off',
        why: opensCase ? 'The bays are inside the case.' : 'Bays of this family are not for swapping while it runs.',
        caution: 'Do not open power supplies. Fans have blades. Earth yourself before you touch a bare drive.',
        does: unit.power === 'on' ? [{ kind: 'switch-power', on: false }] : [],
      }),
    );
  const { pool } = wish;
  const towards = pool
    ? [
        {
          kind: 'towards-pool' as const,
          name: pool.name,
          scheme: pool.scheme,
          ...(pool.groupWidth === undefined ? {} : { groupWidth: pool.groupWidth }),
          spares: pool.spares ?? 0,
          drives: all.map(({ bay, bytes, media }) => ({ bay, bytes, ...(media === undefined ? {} : { media }) })),
        },
      ]
    : [];
  const fits: string[] = [];
  for (const [i, { name, bays }] of unit.enclosures.entries()) {
    const drives = bays.flatMap((bay) => wish.drives.filter((drive) => drive.bay === bay));
    if (drives.length === 0) continue;
    const where = unit.enclosures.length === 1 ? '' : ` in ${name}`;
    fits.push(
      add({
        id: `fit-${String(i + 1)}`,
        kind: 'act',
        title:
          drives.length === 1
            ? `Fit the drive in ${bayName(unit, drives[0]?.bay ?? '')}, by its serial`
            : `Fit ${String(drives.length)} drives${where}, each by its serial`,
        why: `${sizesOf(drives)}. Read size and serial off the drive itself, then push until it clicks: slight resistance, never force. Transit tabs off first.`,
        ...(isClosed
          ? {}
          : { caution: 'Earth yourself; hold drives by the sides. The maker’s manual comes before this list.' }),
        asks: {
          kind: 'scans',
          bays: drives.map(({ bay, serial }) => ({ bay, ...(serial === undefined ? {} : { expects: serial }) })),
        },
        does: [...drives.map((drive) => ({ kind: 'fit-drive' as const, drive })), ...towards],
        after: checks,
      }),
    );
  }
  return fits;
}

/** "14 of 8 TB, 2 of 4 TB". */
function sizesOf(drives: Commission['wish']['drives']): string {
  const counts = new Map<string, number>();
  for (const { label, bytes } of drives)
    counts.set(label ?? formatBytes(bytes), (counts.get(label ?? formatBytes(bytes)) ?? 0) + 1);
  return [...counts].map(([size, count]) => `${String(count)} of ${size}`).join(', ');
}
