import { bayName, BayName } from './bayName';
import { isDown, marginOfPool } from './margin';
import { membersOf, type Job, type UnitState } from './state';

/** What shows at another drive while a pool is rebuilt, checked or converted: what it means, and what to do, in its order. */
export interface Trouble {
  readonly kind: 'trouble';
  readonly serial: string;
  readonly sentence: string;
  readonly todo: readonly string[];
}

/**
 * What is wrong with other drives of the pool a job works on: a sign, an unreadable sector, a failure. Nothing for a
 * copy, which no drive of the pool carries alone; a pool that is down has words of its own.
 */
export function troubleBeside(unit: UnitState, job: Job): readonly Trouble[] {
  const pool = unit.pools[job.pool];
  if (!pool || isDown(pool) || job.task === 'copy' || job.task === 'test') return [];
  const margin = marginOfPool(pool);
  const drives = [...new Set([...membersOf(pool), ...(job.onto === undefined ? [] : [job.onto])])];
  return drives.flatMap((serial): Trouble[] => {
    const drive = unit.drives[serial];
    if (!drive || serial === job.replaces) return [];
    const isMissing = pool.missing.includes(serial);
    if (drive.sick === undefined && !isMissing) return [];
    const where = BayName(unit, drive.bay);
    const said = drive.note === undefined ? '' : `: ${drive.note}`;
    if (serial === job.onto)
      return [
        {
          kind: 'trouble',
          serial,
          sentence: `${where} (${serial}), the new drive, ${drive.sick === 'failed' ? 'has failed' : 'shows signs'} itself${said}.`,
          todo: [
            'Pull nothing while it is written: as long as it goes on, let it run to its end.',
            'Order another now. When this has ended, however it ends, replace this one by a plan of its own.',
            ...keep(unit, job),
          ],
        },
      ];
    const what = isMissing ? 'is out now as well' : 'shows signs while this runs';
    return [
      {
        kind: 'trouble',
        serial,
        sentence: `${where} (${serial}) ${what}${said}. ${
          margin <= 0
            ? `${pool.name} can lose none: ${isMissing ? 'with one more' : 'if it goes,'} ${pool.name} stops.`
            : `${pool.name} can lose ${String(margin)} more.`
        }`,
        todo: [
          `Let it finish: pull nothing, switch nothing off, restart nothing, start no other repair.`,
          ...(margin <= 0
            ? [
                'Copy off now, from another computer, what cannot be made again: the smallest and dearest first. It makes this slower, and is worth it.',
              ]
            : []),
          ...keep(unit, job),
          isMissing
            ? 'When it is done, replace what is out by a plan of its own.'
            : 'When it is done and its page says healthy, replace that drive next.',
        ],
      },
    ];
  });
}

/** The drive that went still holds what another may lose. */
function keep({ drives, ...unit }: UnitState, { replaces, task }: Job): string[] {
  const old = replaces === undefined ? undefined : drives[replaces];
  if (!old || (task !== 'rebuild' && task !== 'replace')) return [];
  const at = old.bay === null ? 'marked with the bay it came out of' : `in ${bayName({ ...unit }, old.bay)}`;
  return [`Keep ${old.serial} as it is, ${at}: it may still hold what that one loses.`];
}
