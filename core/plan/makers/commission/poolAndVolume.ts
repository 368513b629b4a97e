import { planLayout } from '../../../layout/planLayout';
import { factsOf, schemeWords } from '../../../layout/scheme';
import { formatBytes } from '../../../quantity/formatBytes';
import { onUnitPage } from '../../../quantity/onUnitPage';
import { longestRebuild } from '../../../rebuild/estimateRebuild';
import { bayShort } from '../../../unit/bayName';
import { isMadeOtherwise, madeAtFirstStart } from '../../../platform/firstPowerOn';
import type { Commission, CommissionWish } from './commission';

/** The pool, its first build, its volume. @returns the step that made the volume */
export function poolAndVolume(
  { unit, all, fileSystem, isFirst, draft: { add, under } }: Commission,
  pool: NonNullable<CommissionWish['pool']>,
  poolId: string,
  ready: {
    readonly fits: readonly string[];
    readonly counted: readonly string[];
    readonly firmware: string;
    readonly found: string;
  },
): string {
  const { profile } = unit;
  const { growth, software } = profile;
  under('Pool');
  const layout = planLayout(profile, pool.scheme, all, pool.spares ?? 0, pool.groupWidth);
  const isProtected = layout.guaranteedFailures > 0;
  // Where the first power-on has built it by count there is nothing left to create, and nothing more that erases.
  const byItself = isFirst ? madeAtFirstStart(profile, all.length) : undefined;
  const isOther = isFirst && isMadeOtherwise(profile, all.length, pool);
  const isThere = isFirst && growth.firstPowerOnDecides && !isOther;
  const after = [...ready.fits, ...ready.counted, isThere ? ready.found : ready.firmware];
  if (isOther && byItself !== undefined)
    after.push(
      add({
        id: 'made-by-itself',
        kind: 'act',
        title: `Delete the pool it has made by itself, ${schemeWords(byItself)}, while it is empty`,
        why: `At its first power-on this family makes that of ${all.length === 1 ? 'one drive' : `${String(all.length)} drives`}, without being asked. ${schemeWords(pool.scheme)} is made anew in the next step.`,
        caution:
          'Now, and never later: once files are in it, deleting it is losing them. If its page shows anything in it, stop here.',
        after: [...after],
      }),
    );
  const made = add({
    id: 'pool',
    kind: isThere ? 'check' : 'act',
    title: isThere
      ? `See that it has made ${schemeWords(pool.scheme)} of ${all.length === 1 ? 'the one drive' : `all ${String(all.length)}`}, and call it ${pool.name}: ${formatBytes(layout.usableBytes)} usable`
      : `Create ${pool.name}: ${factsOf(pool.scheme).name}, ${formatBytes(layout.usableBytes)} usable`,
    why: `${isThere ? 'Another level, or fewer drives: copy nothing in; switch it off, see which drive was not seated, and begin again while it is empty. ' : ''}The unit’s page will show ${onUnitPage(layout.shownBytes, profile.unitPage)}. Changing the layout later means hours to days, or erasing.`,
    ...(isThere
      ? {}
      : {
          caution: `This erases every drive in it: bays ${all.map(({ bay }) => bayShort(unit, bay)).join(', ')}. Compare the serials on the unit’s page with those you read before you answer yes.`,
        }),
    does: [
      {
        kind: 'make-pool',
        pool: poolId,
        name: pool.name,
        scheme: pool.scheme,
        ...(pool.groupWidth === undefined ? {} : { groupWidth: pool.groupWidth }),
        spares: pool.spares ?? 0,
        bays: all.map(({ bay }) => bay),
      },
      ...(isProtected ? [{ kind: 'start-job' as const, task: 'first-build' as const, pool: poolId }] : []),
    ],
    after,
  });
  const planned = new Map(all.map(({ bay, bytes, media = 'hard-disk' }) => [bay, { bay, bytes, media }]));
  // A first build writes every member from end to end, as a rebuild writes one. Without protection there is none.
  const pass = longestRebuild(layout.bands, planned, profile.rebuild);
  const built = isProtected
    ? add({
        id: 'first-build',
        kind: 'wait',
        title: 'Wait for the first build',
        why: `${growth.usableDuringFirstBuild ? 'The pool can be used meanwhile, slowly' : 'The pool cannot be used before it is done'}${growth.protectedDuringFirstBuild === true ? '; it is protected from the start' : '; it can lose none until the build is done'}. A “quick” build skips it and leaves first errors to be found later.`,
        hours: pass === null ? 0.1 : pass.likely / 3600,
        does: [{ kind: 'finish-job', task: 'first-build', pool: poolId }],
        after: [made],
      })
    : made;
  const offered = software.fileSystems;
  const volume = add({
    id: 'file-system',
    kind: 'act',
    title: `Make the volume${fileSystem ? `, file system ${fileSystem.name}` : ''}`,
    why: `${offered.some(({ checksums }) => checksums) ? 'This choice is final: a file system with checksums, which repairs itself and can be scrubbed, cannot be chosen later without making the shares anew.' : 'This family offers one kind of file system, without checksums: nothing notices a byte that has changed by itself.'}${profile.volumes.nominalBytes === undefined ? '' : ` Every volume is shown with ${formatBytes(profile.volumes.nominalBytes, 'binary')}, whatever is behind it: watch the pool, not the volume.`}`,
    does: [
      {
        kind: 'make-volume',
        pool: poolId,
        name: `Volume ${String(Object.keys(unit.volumes).length + 1)}`,
        thin: profile.volumes.thin,
        ...(fileSystem ? { fileSystem: fileSystem.name, checksums: fileSystem.checksums } : {}),
      },
    ],
    after: growth.usableDuringFirstBuild ? [made] : [built],
  });
  return volume;
}
