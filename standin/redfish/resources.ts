import { bayName, trayOf } from '../../core/unit/bayName';
import { marginOfPool } from '../../core/unit/margin';
import {
  baysOf,
  driveInBay,
  membersOf,
  poolOfDrive,
  poolsOf,
  type DriveInUnit,
  type Pool,
} from '../../core/unit/state';
import { percentShown, type Truth } from '../truth';

/**
 * A unit as resources of DMTF Redfish (DSP0266, DSP0268) with the storage of SNIA Swordfish: one for each address, links by
 * `@odata.id`. Property names and their meanings are those of the published schemas, from memory.
 */
export type Body = Readonly<Record<string, unknown>>;

/** Where the standard says that every service begins. */
export const ROOT_PATH = '/redfish/v1';

const STORAGE = `${ROOT_PATH}/Systems/1/Storage/1`;
const link = (id: string): Body => ({ '@odata.id': id });

/** A fan as it turns, percent. */
const SPEED = 38;

/** Every resource that says something of the hardware, by its address below the unit's own base. */
export function resourcesOf(truth: Truth, bootedAt: number, now: number): ReadonlyMap<string, Body> {
  const all = new Map<string, Body>();
  const put = (path: string, type: string, id: string, name: string, body: Body): void => {
    all.set(path, { '@odata.id': path, '@odata.type': `#${type}`, Id: id, Name: name, ...body });
  };
  const collect = (path: string, type: string, name: string, members: readonly string[], more: Body = {}): void => {
    all.set(path, {
      '@odata.id': path,
      '@odata.type': `#${type}Collection.${type}Collection`,
      Name: name,
      'Members@odata.count': members.length,
      Members: members.map(link),
      ...more,
    });
  };
  const { unit } = truth;
  const chassis = unit.enclosures.map(({ name }) => `${ROOT_PATH}/Chassis/${slug(name)}`);
  const isAway = (name: string): boolean => unit.away.includes(name);

  collect(`${ROOT_PATH}/Systems`, 'ComputerSystem', 'Systems', [`${ROOT_PATH}/Systems/1`]);
  put(`${ROOT_PATH}/Systems/1`, 'ComputerSystem.v1_20_0.ComputerSystem', '1', unit.name, {
    SystemType: 'Physical',
    HostName: unit.name.toLowerCase().replace(/\W+/g, '-'),
    Manufacturer: 'Marrowfen',
    Model: unit.profile.name,
    ...(unit.details.serial == null ? {} : { SerialNumber: unit.details.serial }),
    PowerState: unit.power === 'on' ? 'On' : 'Off',
    Status: { State: 'Enabled', Health: healthOf(truth), HealthRollup: healthOf(truth) },
    Storage: link(`${ROOT_PATH}/Systems/1/Storage`),
    Links: { Chassis: chassis.map(link), ManagedBy: [link(`${ROOT_PATH}/Managers/1`)] },
  });

  collect(`${ROOT_PATH}/Systems/1/Storage`, 'Storage', 'Storage', [STORAGE]);
  const bays = baysOf(unit);
  const pools = poolsOf(unit);
  const there = bays.filter((bay) => !isAway(trayOf(unit, bay)?.enclosure.name ?? ''));
  put(STORAGE, 'Storage.v1_15_0.Storage', '1', `Storage of ${unit.name}`, {
    Status: { State: 'Enabled', Health: healthOf(truth) },
    Controllers: link(`${STORAGE}/Controllers`),
    'Drives@odata.count': there.length,
    Drives: there.map((bay) => link(drivePath(bay))),
    Volumes: link(`${STORAGE}/Volumes`),
    StoragePools: link(`${STORAGE}/StoragePools`),
    Links: { Enclosures: chassis.map(link) },
  });
  collect(`${STORAGE}/Controllers`, 'StorageController', 'Storage controllers', [`${STORAGE}/Controllers/1`]);
  put(`${STORAGE}/Controllers/1`, 'StorageController.v1_7_0.StorageController', '1', 'Controller', {
    Status: { State: 'Enabled', Health: 'OK' },
    SupportedDeviceProtocols: ['SATA'],
    SupportedControllerProtocols: ['PCIe'],
    Manufacturer: 'Marrowfen',
  });
  for (const bay of there) {
    const drive = driveInBay(unit, bay);
    const at = trayOf(unit, bay);
    put(drivePath(bay), 'Drive.v1_17_0.Drive', bay, `Drive in ${bayName(unit, bay)}`, {
      ...driveBody(truth, bay, drive, pools),
      PhysicalLocation: {
        PartLocation: {
          LocationType: 'Bay',
          ServiceLabel: bayName(unit, bay),
          ...(at && /^\d+$/.test(at.tray) ? { LocationOrdinalValue: Number(at.tray) } : {}),
        },
      },
      Links: {
        Chassis: link(`${ROOT_PATH}/Chassis/${slug(at?.enclosure.name ?? '')}`),
        Volumes: drive ? volumesOf(pools, drive.serial).map((n) => link(`${STORAGE}/Volumes/${String(n)}`)) : [],
      },
    });
    const was = drive ? truth.drives[drive.serial] : undefined;
    if (!drive || !was) continue;
    put(`${drivePath(bay)}/Metrics`, 'DriveMetrics.v1_2_0.DriveMetrics', 'Metrics', 'Metrics of the drive', {
      PowerOnHours: Math.floor(was.hours),
      BadBlockCount: Math.floor(was.reallocated),
      UncorrectableIOReadErrorCount: Math.floor(was.unreadable),
    });
    put(
      `${drivePath(bay)}/EnvironmentMetrics`,
      'EnvironmentMetrics.v1_3_0.EnvironmentMetrics',
      'EnvironmentMetrics',
      'Surroundings of the drive',
      { TemperatureCelsius: { Reading: was.celsius } },
    );
  }

  const numbers = pools.map((_, i) => i + 1);
  collect(
    `${STORAGE}/Volumes`,
    'Volume',
    'Volumes',
    numbers.map((n) => `${STORAGE}/Volumes/${String(n)}`),
  );
  collect(
    `${STORAGE}/StoragePools`,
    'StoragePool',
    'Storage pools',
    numbers.map((n) => `${STORAGE}/StoragePools/${String(n)}`),
  );
  for (const [i, pool] of pools.entries()) {
    const n = String(i + 1);
    const members = membersOf(pool).flatMap((serial) => bayLink(truth, serial));
    const status = {
      State: marginOfPool(pool) < 0 ? 'UnavailableOffline' : 'Enabled',
      Health: poolHealth(pool),
    };
    const capacity = {
      Data: { AllocatedBytes: pool.shownBytes, ConsumedBytes: Math.min(pool.shownBytes, truth.used[pool.id] ?? 0) },
    };
    put(`${STORAGE}/Volumes/${n}`, 'Volume.v1_9_0.Volume', n, pool.name, {
      Status: status,
      CapacityBytes: pool.shownBytes,
      Capacity: capacity,
      RemainingCapacityPercent: Math.round(100 * (1 - capacity.Data.ConsumedBytes / Math.max(1, pool.shownBytes))),
      ...(RAID_TYPES[pool.scheme] === undefined ? {} : { RAIDType: RAID_TYPES[pool.scheme] }),
      BlockSizeBytes: 512,
      Operations: operationsOf(truth, pool),
      Links: { Drives: members, DedicatedSpareDrives: pool.spares.flatMap((serial) => bayLink(truth, serial)) },
    });
    put(`${STORAGE}/StoragePools/${n}`, 'StoragePool.v1_9_0.StoragePool', n, pool.name, {
      Status: status,
      Capacity: capacity,
      AllocatedVolumes: link(`${STORAGE}/StoragePools/${n}/AllocatedVolumes`),
      Links: { DedicatedSpareDrives: pool.spares.flatMap((serial) => bayLink(truth, serial)) },
    });
    collect(`${STORAGE}/StoragePools/${n}/AllocatedVolumes`, 'Volume', 'Volumes of the pool', [
      `${STORAGE}/Volumes/${n}`,
    ]);
  }

  collect(`${ROOT_PATH}/Chassis`, 'Chassis', 'Chassis', chassis);
  for (const [i, box] of unit.enclosures.entries()) {
    const path = chassis[i] as string;
    const away = isAway(box.name);
    put(path, 'Chassis.v1_25_0.Chassis', slug(box.name), box.name, {
      ChassisType: i === 0 ? 'StandAlone' : 'Enclosure',
      Manufacturer: 'Marrowfen',
      Model: unit.profile.name,
      PowerState: unit.power === 'on' && !away ? 'On' : 'Off',
      Status: away ? { State: 'UnavailableOffline', Health: 'Critical' } : { State: 'Enabled', Health: 'OK' },
      Drives: link(`${path}/Drives`),
      // As older services have it, and as the newer: one of the two is read.
      Power: link(`${path}/Power`),
      Thermal: link(`${path}/Thermal`),
      PowerSubsystem: link(`${path}/PowerSubsystem`),
      ThermalSubsystem: link(`${path}/ThermalSubsystem`),
      Links: {
        ComputerSystems: [link(`${ROOT_PATH}/Systems/1`)],
        ManagedBy: [link(`${ROOT_PATH}/Managers/1`)],
        Storage: [link(STORAGE)],
        ...(i === 0 ? { Contains: chassis.slice(1).map(link) } : { ContainedBy: link(chassis[0] as string) }),
      },
    });
    collect(`${path}/Drives`, 'Drive', `Drives of ${box.name}`, away ? [] : box.bays.map(drivePath));
    const supplies = [1, 2].slice(0, unit.details.supplies?.includes('two') === true ? 2 : 1);
    put(`${path}/PowerSubsystem`, 'PowerSubsystem.v1_1_2.PowerSubsystem', 'PowerSubsystem', 'Power', {
      Status: { State: 'Enabled', Health: 'OK' },
      PowerSupplies: link(`${path}/PowerSubsystem/PowerSupplies`),
    });
    collect(
      `${path}/PowerSubsystem/PowerSupplies`,
      'PowerSupply',
      'Power supplies',
      supplies.map((n) => `${path}/PowerSubsystem/PowerSupplies/${String(n)}`),
    );
    for (const n of supplies) {
      const name = partName(box.name, 'Supply', n, unit.enclosures.length);
      put(`${path}/PowerSubsystem/PowerSupplies/${String(n)}`, 'PowerSupply.v1_6_0.PowerSupply', String(n), name, {
        PowerSupplyType: 'AC',
        Status: partStatus(truth, 'supply', name, away),
      });
    }
    put(`${path}/Power`, 'Power.v1_7_2.Power', 'Power', 'Power', {
      'PowerSupplies@odata.count': supplies.length,
      PowerSupplies: supplies.map((n, at) => {
        const name = partName(box.name, 'Supply', n, unit.enclosures.length);
        return {
          '@odata.id': `${path}/Power#/PowerSupplies/${String(at)}`,
          MemberId: String(at),
          Name: name,
          PowerSupplyType: 'AC',
          Status: partStatus(truth, 'supply', name, away),
        };
      }),
    });
    put(`${path}/ThermalSubsystem`, 'ThermalSubsystem.v1_3_2.ThermalSubsystem', 'ThermalSubsystem', 'Cooling', {
      Status: { State: 'Enabled', Health: 'OK' },
      Fans: link(`${path}/ThermalSubsystem/Fans`),
    });
    collect(`${path}/ThermalSubsystem/Fans`, 'Fan', 'Fans', [`${path}/ThermalSubsystem/Fans/1`]);
    const fan = partName(box.name, 'Fan', 1, unit.enclosures.length);
    const fanStatus = partStatus(truth, 'fan', fan, away);
    put(`${path}/ThermalSubsystem/Fans/1`, 'Fan.v1_5_1.Fan', '1', fan, {
      Status: fanStatus,
      SpeedPercent: { Reading: fanStatus.Health === 'OK' ? SPEED : 0 },
    });
    put(`${path}/Thermal`, 'Thermal.v1_7_3.Thermal', 'Thermal', 'Cooling', {
      'Fans@odata.count': 1,
      Fans: [
        {
          '@odata.id': `${path}/Thermal#/Fans/0`,
          MemberId: '0',
          Name: fan,
          Reading: fanStatus.Health === 'OK' ? SPEED : 0,
          ReadingUnits: 'Percent',
          Status: fanStatus,
        },
      ],
    });
  }

  collect(`${ROOT_PATH}/Managers`, 'Manager', 'Managers', [`${ROOT_PATH}/Managers/1`]);
  put(`${ROOT_PATH}/Managers/1`, 'Manager.v1_18_0.Manager', '1', `Manager of ${unit.name}`, {
    ManagerType: 'EnclosureManager',
    ...(unit.details.firmware == null ? {} : { FirmwareVersion: unit.details.firmware }),
    DateTime: new Date(now).toISOString().replace(/\.\d+Z$/, '+00:00'),
    DateTimeLocalOffset: '+00:00',
    LastResetTime: new Date(bootedAt).toISOString().replace(/\.\d+Z$/, '+00:00'),
    Status: { State: 'Enabled', Health: 'OK' },
    Links: { ManagerForServers: [link(`${ROOT_PATH}/Systems/1`)], ManagerForChassis: chassis.map(link) },
  });
  return all;
}

export function drivePath(bay: string): string {
  return `${STORAGE}/Drives/${encodeURIComponent(bay)}`;
}

/** The bay of an address, where it is one of a drive. */
export function bayOfPath(path: string): string | undefined {
  const [, bay] = new RegExp(`^${STORAGE}/Drives/([^/]+)$`).exec(path) ?? [];
  return bay === undefined ? undefined : decodeURIComponent(bay);
}

function slug(name: string): string {
  return name.replace(/\W+/g, '-');
}

function partName(box: string, part: string, n: number, boxes: number): string {
  return boxes > 1 ? `${box}, ${part.toLowerCase()} ${String(n)}` : `${part} ${String(n)}`;
}

function partStatus(
  { unit }: Truth,
  part: 'supply' | 'fan',
  name: string,
  away: boolean,
): { readonly State: string; readonly Health: string } {
  if (away) return { State: 'UnavailableOffline', Health: 'Critical' };
  const isLost = unit.parts.some((lost) => lost.part === part && lost.name === name);
  return isLost ? { State: 'UnavailableOffline', Health: 'Critical' } : { State: 'Enabled', Health: 'OK' };
}

/** What the standard has a word for; mixed and dedicated layouts have none, and say nothing. */
const RAID_TYPES: Readonly<Partial<Record<Pool['scheme'], string>>> = {
  separate: 'None',
  span: 'None',
  stripe: 'RAID0',
  mirror: 'RAID1',
  'striped-mirrors': 'RAID10',
  'parity-1': 'RAID5',
  'parity-2': 'RAID6',
  'parity-1-groups': 'RAID50',
  'parity-2-groups': 'RAID60',
};

const NO_DRIVE: Body = {
  Status: { State: 'Absent' },
  Manufacturer: null,
  Model: null,
  SerialNumber: null,
  CapacityBytes: null,
  FailurePredicted: false,
};

/** A rating that is used up in ten years of running, as it is shown: whole percents. */
function lifeLeftOf(hours: number): number {
  return Math.max(0, Math.floor(100 - hours / 876));
}

function driveBody(truth: Truth, bay: string, drive: DriveInUnit | undefined, pools: readonly Pool[]): Body {
  const { unit } = truth;
  // A family without a light to find a bay by has no such property.
  const light = unit.profile.service.locateLight ? { LocationIndicatorActive: truth.lit.includes(bay) } : {};
  if (!drive) return { ...NO_DRIVE, ...light };
  const isSpare = pools.some(({ spares }) => spares.includes(drive.serial));
  const job = Object.values(unit.jobs).find(({ onto }) => onto === drive.serial);
  const isFlash = drive.media === 'ssd' || drive.media === 'nvme';
  return {
    Status: {
      State:
        drive.condition === 'failed' || drive.condition === 'out-of-service'
          ? 'Disabled'
          : isSpare && !job
            ? 'StandbySpare'
            : 'Enabled',
      Health: drive.condition === 'failed' ? 'Critical' : drive.condition === 'suspected' ? 'Warning' : 'OK',
    },
    StatusIndicator: indicatorOf(truth, drive, isSpare, job !== undefined),
    HotspareType: isSpare && !job ? 'Dedicated' : 'None',
    Manufacturer: 'Quernholt',
    Model: drive.model ?? null,
    SerialNumber: drive.printed ?? drive.serial,
    CapacityBytes: drive.bytes,
    BlockSizeBytes: 512,
    MediaType: isFlash ? 'SSD' : 'HDD',
    Protocol: drive.media === 'nvme' ? 'NVMe' : 'SATA',
    FailurePredicted: drive.condition === 'suspected',
    ...(isFlash ? { PredictedMediaLifeLeftPercent: lifeLeftOf(truth.drives[drive.serial]?.hours ?? 0) } : {}),
    ...light,
    Metrics: link(`${drivePath(bay)}/Metrics`),
    EnvironmentMetrics: link(`${drivePath(bay)}/EnvironmentMetrics`),
    Operations: job ? [operation('Rebuild', percentShown(truth, job))] : [],
  };
}

function indicatorOf({ unit }: Truth, drive: DriveInUnit, isSpare: boolean, isWritten: boolean): string {
  if (drive.condition === 'failed') return 'Fail';
  if (isWritten) return 'Rebuild';
  if (drive.condition === 'suspected') return 'PredictiveFailureAnalysis';
  if (isSpare) return 'Hotspare';
  const pool = poolOfDrive(unit, drive.serial);
  return pool && pool.missing.length > 0 ? 'InACriticalArray' : 'OK';
}

/** Whole percents, as the standard has them. */
function operation(name: string, percent: number): Body {
  return { OperationName: name, PercentageComplete: Math.floor(percent) };
}

const OPERATION_NAMES: Readonly<Record<string, string>> = {
  rebuild: 'Rebuild',
  replace: 'Rebuild',
  scrub: 'Consistency check',
  'first-build': 'Initialization',
  expand: 'Expansion',
  convert: 'RAID level migration',
};

function operationsOf(truth: Truth, pool: Pool): Body[] {
  return Object.values(truth.unit.jobs)
    .filter((job) => job.pool === pool.id)
    .map((job) => operation(OPERATION_NAMES[job.task] ?? job.task, percentShown(truth, job)));
}

function volumesOf(pools: readonly Pool[], serial: string): number[] {
  return pools.flatMap((pool, i) => (membersOf(pool).includes(serial) ? [i + 1] : []));
}

function bayLink({ unit }: Truth, serial: string): Body[] {
  const bay = unit.drives[serial]?.bay;
  return bay == null ? [] : [link(drivePath(bay))];
}

function poolHealth(pool: Pool): 'OK' | 'Warning' | 'Critical' {
  const margin = marginOfPool(pool);
  if (margin < 0) return 'Critical';
  return pool.missing.length > 0 ? 'Warning' : 'OK';
}

function healthOf(truth: Truth): 'OK' | 'Warning' | 'Critical' {
  const each = poolsOf(truth.unit).map((pool) => poolHealth(pool));
  if (each.includes('Critical') || truth.unit.away.length > 0) return 'Critical';
  return each.includes('Warning') || truth.unit.parts.length > 0 ? 'Warning' : 'OK';
}
