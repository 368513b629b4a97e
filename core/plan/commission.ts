import { bayName, BayName, bayShort } from '../unit/bayName';
import { figuresOf } from '../drive/media';
import { factsOf, type Scheme } from '../layout/scheme';
import { planLayout } from '../layout/planLayout';
import { formatBytes } from '../quantity/formatBytes';
import { baysOf, type UnitState } from '../unit/state';
import { refusal, type Refusal } from '../value/refusal';
import { longestRebuild } from '../rebuild/estimateRebuild';
import { draftPlan } from './draftPlan';
import type { PlanBody, PlanStep } from './plan';

export interface CommissionWish {
  readonly drives: readonly NonNullable<Extract<PlanStep['does'][number], { kind: 'fit-drive' }>['drive']>[];
  readonly pool?: { readonly name: string; readonly scheme: Scheme; readonly groupWidth?: number; readonly spares?: number };
  /** One of the family's file systems. */
  readonly fileSystem?: string;
  /** Bytes to copy in; left out when nothing is. */
  readonly copyBytes?: number;
  /** What the user's own list of tested drives says of a model; `undefined` when it is not on it. */
  readonly tested?: (model: string) => 'works' | 'avoid' | undefined;
}

/** Large files over gigabit Ethernet, bytes/s (common practice). */
const GIGABIT_COPY = 111e6;
/** Screws for a 3.5-inch drive (common practice). */
const SCREWS = 4;

/**
 * The plan that takes a unit from its box to its first backup, made for this family, these bays and these drives: a
 * two-bay box and a head with four extensions get different, fitting lists. Order after common practice; the maker's
 * manual comes before it.
 *
 * @param newId an id for the pool that is made (uuid)
 * @returns the plan, or a refusal when the drives do not fit or the pool cannot be made of them
 */
export function commissionPlan(unit: UnitState, wish: CommissionWish, newId: () => string): PlanBody | Refusal {
  const { profile } = unit;
  const bays = baysOf(unit);
  const stray = wish.drives.find(({ bay }) => !bays.includes(bay));
  if (stray) return refusal('bay-unknown', `${unit.name} has no bay ${stray.bay}.`, '/drives');
  const twice = wish.drives.find(({ bay }, i) => wish.drives.findIndex((one) => one.bay === bay) !== i);
  if (twice) return refusal('bay-twice', `Two drives are planned for ${bayName(unit, twice.bay)}.`, '/drives');
  const taken = wish.drives.find(({ bay }) => Object.values(unit.drives).some((drive) => drive.bay === bay));
  if (taken) return refusal('bay-occupied', `${BayName(unit, taken.bay)} of ${unit.name} holds a drive already.`, '/drives');
  const fileSystem = profile.software.fileSystems.find(({ name }) => name === wish.fileSystem);
  if (wish.fileSystem !== undefined && !fileSystem)
    return refusal('file-system-unknown', `This family offers ${profile.software.fileSystems.map(({ name }) => `“${name}”`).join(' and ')}.`, '/fileSystem');
  const standing = Object.values(unit.drives).flatMap(({ bay, bytes, media }) =>
    bay === null ? [] : [{ bay, bytes, ...(media === undefined ? {} : { media }) }],
  );
  const all = [...standing, ...wish.drives];
  const { pool } = wish;
  if (pool) {
    const layout = planLayout(profile, pool.scheme, all, pool.spares ?? 0, pool.groupWidth);
    if (!layout.legal) return refusal('layout-illegal', layout.reasons.join(' '), '/pool/scheme');
  }

  const { steps, add, under } = draftPlan();
  const { service, growth, software } = profile;
  const closed = service.opensCase || !service.hotSwap.includes('drives');
  const waits = service.waits ?? {};

  under('Out of the box');
  add({ id: 'attention', title: 'Read the sheets in the box, the latest “attention” sheet first', why: 'It is printed after the manual and corrects it.' });
  const screws = wish.drives.filter(({ media }) => figuresOf(media ?? 'hard-disk').fits.includes('3.5-inch')).length * SCREWS;
  add({
    id: 'count',
    title: `Count what is in the box: ${String(bays.length)} ${bays.length === 1 ? 'tray' : 'trays'}, keys, cables, supplies${screws > 0 ? `, ${String(screws)} screws` : ''}`,
    why: `Something missing is claimed today, not the evening the drives go in.${screws > 0 ? ` ${String(SCREWS)} screws a drive (common practice); use the ones supplied, hand-tight: some of them damp vibration.` : ''}`,
  });
  add({
    id: 'unit-serial',
    kind: 'record',
    title: 'Write down the serial of the unit',
    why: 'Warranty and firmware go by it, and behind a rack it cannot be read any more.',
    asks: { kind: 'text', label: 'Serial on the back or the underside' },
    does: [{ kind: 'write-down', field: 'serial' }],
    maySkip: true,
  });
  if (bays.length >= 12)
    add({
      id: 'lift',
      title: 'Rails first, the heaviest unit lowest, two people to lift',
      why: 'A loaded enclosure of twelve bays or more is a two-person lift.',
      caution: 'Rack power and fixed wiring are for licensed people under local codes.',
    });

  under('Drives');
  const checks: string[] = [];
  const models = [...new Set(wish.drives.flatMap(({ model }) => model ?? []))];
  const words = models.map(
    (model) => `${model}: ${{ works: 'on your list, works', avoid: 'on your list as one to avoid', none: 'not on your list' }[wish.tested?.(model) ?? 'none']}`,
  );
  checks.push(
    add({
      id: 'tested',
      title: 'Check every model against the maker’s list of tested drives and your own',
      why: words.length === 0 ? 'A drive that is on neither list may work, and may drop out under load.' : `${words.join('; ')}. The maker’s list comes first.`,
      ...(models.some((model) => wish.tested?.(model) === 'avoid') ? { caution: 'One of these models is on your own list as one to avoid.' } : {}),
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
        : { caution: `Planned as shingled: bay ${shingled.map((bay) => bayShort(unit, bay)).join(', ')}. Keep such drives out of a parity pool.` }),
    }),
  );
  checks.push(
    add({
      id: 'partitions',
      title: 'Make sure no drive carries old partitions or files you still need',
      why: 'Some units refuse such drives to protect what is on them; others wipe them without a word.',
    }),
  );
  if (closed)
    checks.push(
      add({
        id: 'unplug',
        kind: 'act',
        title: service.opensCase ? 'Switch off and unplug every supply before the case is opened' : 'Leave the unit switched off',
        why: service.opensCase ? 'The bays are inside the case.' : 'Bays of this family are not for swapping while it runs.',
        caution: 'Do not open power supplies. Fans have blades. Earth yourself before you touch a bare drive.',
        does: unit.power === 'on' ? [{ kind: 'switch-power', on: false }] : [],
      }),
    );
  const fits = wish.drives.map((drive) =>
    add({
      id: `fit-${idOf(drive.bay)}`,
      kind: 'act',
      title: `Fit ${drive.label ?? formatBytes(drive.bytes)} in ${bayName(unit, drive.bay)}${drive.serial === undefined ? '' : `: ${drive.serial}`}`,
      why: 'Read the serial off the drive itself, then push until it clicks: slight resistance, never force. Transit tabs off first.',
      asks: { kind: 'serial', ...(drive.serial === undefined ? {} : { expects: drive.serial }) },
      does: [{ kind: 'fit-drive', drive }],
      after: checks,
    }),
  );

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
      title: unit.enclosures.length > 1 || bays.length >= 12 ? 'Both supplies of every enclosure plugged in' : 'Supply plugged in, on a protected outlet',
      why: 'With one of two supplies dead an alarm sounds: that is its only meaning. There is a button for it.',
      after: cabled.slice(-1),
    }),
  );

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
    does: unit.power === 'off' || closed ? [{ kind: 'switch-power', on: true }] : [],
    after: [...fits, ...cabled],
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

  under('Setting up');
  if (software.factoryAccount !== 'none')
    add({
      id: 'administrator',
      title: 'Make an administrator of your own and close the factory account',
      why: software.factoryAccount === 'blank' ? 'The factory account has no password.' : 'Its name and password are in every manual of the family.',
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
  const firmware = add({
    id: 'firmware',
    kind: 'record',
    title: 'Update firmware, again and again until none is offered',
    why: 'One update may lead to the next. Nothing is copied while it runs.',
    asks: { kind: 'text', label: 'Version it ended with' },
    does: [{ kind: 'update-firmware' }],
    after: [found],
  });

  if (pool) {
    under('Pool');
    const poolId = newId();
    const isProtected = factsOf(pool.scheme).redundancy !== 0;
    const layout = planLayout(profile, pool.scheme, all, pool.spares ?? 0, pool.groupWidth);
    const made = add({
      id: 'pool',
      kind: 'act',
      title: `Create ${pool.name}: ${factsOf(pool.scheme).name}, ${formatBytes(layout.usableBytes)} usable`,
      why: `The unit’s page will show ${formatBytes(layout.shownBytes, profile.unitPage.counts === 'TiB' ? 'binary' : 'decimal', 2)}${profile.unitPage.counts === profile.unitPage.prints ? '' : ` and print “${profile.unitPage.prints}” behind it`}. Changing the layout later means hours to days, or erasing.`,
      caution: `This erases every drive in it: bays ${all.map(({ bay }) => bayShort(unit, bay)).join(', ')}. Compare the serials on the unit’s page with those you read before you answer yes.`,
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
      after: [...fits, firmware],
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
          name: 'Volume 1',
          thin: profile.volumes.thin,
          ...(fileSystem ? { fileSystem: fileSystem.name, checksums: fileSystem.checksums } : {}),
        },
      ],
      after: growth.usableDuringFirstBuild ? [made] : [built],
    });

    under('Shares and data');
    const shares = add({
      id: 'shares',
      title: 'Make the shares and who may use them; a recycle area only where it is wanted',
      why: 'A recycle area keeps deleted files, eats space and falsifies comparisons.',
      after: [volume],
    });
    if (wish.copyBytes !== undefined && wish.copyBytes > 0) {
      const copied = add({
        id: 'copy',
        kind: 'wait',
        title: `Copy ${formatBytes(wish.copyBytes)} in`,
        why: `About ${hoursWords(wish.copyBytes / GIGABIT_COPY / 3600)} for large files over gigabit (111 MB/s, common practice); many small files take several times that. Firmware is not updated meanwhile.`,
        hours: wish.copyBytes / GIGABIT_COPY / 3600,
        after: [shares],
      });
      add({ id: 'compare', title: 'Compare number and size of files at both ends', why: 'A copy that stopped half-way looks like a copy.', after: [copied] });
    }

    under('While it is new');
    add({
      id: 'speed',
      kind: 'record',
      title: 'Measure its speed with one large file each way',
      why: 'To know later what slow is.',
      asks: { kind: 'speed' },
      does: [{ kind: 'measure-speed' }],
      after: [volume],
      maySkip: true,
    });
    add({
      id: 'labels',
      title: 'Print labels for unit, bays and drives and stick them on',
      why: 'The last four of a serial, read with the bay open and the lamp in the other hand.',
      does: [{ kind: 'confirm', check: 'labels-printed' }],
      after: fits,
      maySkip: true,
    });
    add({
      id: 'backup',
      kind: 'record',
      title: 'Arrange the backup and write down where it goes',
      why: 'A pool is not a backup: fire, theft, deletion and overwriting take all members at once. One copy with versions, one off site.',
      asks: { kind: 'text', label: 'Where the copy is kept' },
      does: [{ kind: 'arrange-copy' }],
      after: [shares],
    });
    if (software.configurationExport)
      add({
        id: 'configuration',
        title: 'Export the configuration and keep it elsewhere',
        why: 'It restores users and settings onto a unit that was reset.',
        after: [shares],
        maySkip: true,
      });
    if (profile.roaming.flashStick)
      add({
        id: 'flash-stick',
        kind: 'record',
        title: 'Copy the flash stick; photograph which drive has which role',
        asks: { kind: 'picture' },
        why: 'The system and its licence live on it. Without the stick and the roles the drives are a puzzle.',
        after: [shares],
      });
    add({
      id: 'call',
      kind: 'record',
      title: 'Write down who is called when it beeps',
      why: 'The person at the shelf is rarely the one who set it up.',
      asks: { kind: 'text', label: 'Name and number' },
      does: [{ kind: 'write-down', field: 'call' }],
      maySkip: true,
    });
  }
  return { job: 'commission', title: `Commission ${unit.name}`, steps };
}

function idOf(bay: string): string {
  return bay.toLowerCase().replace(/[^a-z0-9]+/g, '-');
}

function hoursWords(hours: number): string {
  const minutes = Math.max(1, Math.round(hours * 60));
  return minutes < 60 ? `${String(minutes)} min` : `${String(Math.floor(minutes / 60))} h ${String(minutes % 60)} min`;
}
