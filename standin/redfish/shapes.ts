/**
 * The shapes of the resources that are played, as JSON Schemas: written from the DMTF Redfish schema bundle (DSP8010, as
 * described in DSP0268) and SNIA Swordfish, from memory. Closed: a property the standard does not have, or a value that is
 * none of its words, is a fault.
 */
interface Shape {
  readonly required?: readonly string[];
  readonly properties: Readonly<Record<string, object>>;
}

const text = { type: 'string', minLength: 1 } as const;
const maybe = (of: { readonly type: string }): object => ({ ...of, type: [of.type, 'null'] });
const count = { type: 'integer', minimum: 0 } as const;
const flag = { type: 'boolean' } as const;
const oneOf = (...words: readonly string[]): object => ({ enum: words });
const object = (properties: Readonly<Record<string, object>>, required: readonly string[] = []): object => ({
  type: 'object',
  additionalProperties: false,
  properties,
  required,
});
const list = (items: object): object => ({ type: 'array', items });
/** A link; or, where it was asked to write it out, the resource itself, which is checked by its own shape. */
const link = {
  type: 'object',
  required: ['@odata.id'],
  properties: { '@odata.id': { type: 'string', pattern: '^(/unit-\\d+)?/redfish/v1/' } },
} as const;
const links = list(link);
const health = oneOf('OK', 'Warning', 'Critical');
const status = object({
  State: oneOf(
    'Enabled',
    'Disabled',
    'StandbyOffline',
    'StandbySpare',
    'InTest',
    'Starting',
    'Absent',
    'UnavailableOffline',
    'Deferring',
    'Quiesced',
    'Updating',
    'Qualified',
    'Degraded',
  ),
  Health: health,
  HealthRollup: health,
});
const moment = {
  type: 'string',
  pattern: '^\\d{4}-\\d\\d-\\d\\dT\\d\\d:\\d\\d:\\d\\d(\\.\\d+)?(Z|[+-]\\d\\d:\\d\\d)$',
} as const;
const percent = { type: 'number', minimum: 0, maximum: 100 } as const;
const operations = list(object({ OperationName: text, PercentageComplete: { ...percent, type: 'integer' } }));
const capacity = object({ Data: object({ AllocatedBytes: count, ConsumedBytes: count }) });
const power = oneOf('On', 'Off', 'PoweringOn', 'PoweringOff', 'Paused');
const protocol = oneOf('SATA', 'SAS', 'NVMe', 'PCIe', 'NVMeOverFabrics', 'Multiple');
const of = (properties: Shape['properties'], required: readonly string[] = []): Shape => ({ properties, required });

const SHAPES: Readonly<Record<string, Shape>> = {
  ServiceRoot: of(
    {
      RedfishVersion: { type: 'string', pattern: '^\\d+\\.\\d+\\.\\d+$' },
      UUID: { type: 'string', pattern: '^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$' },
      Product: text,
      Vendor: text,
      ProtocolFeaturesSupported: object({
        ExpandQuery: object({ ExpandAll: flag, Levels: flag, Links: flag, NoLinks: flag, MaxLevels: count }),
        SelectQuery: flag,
        FilterQuery: flag,
        ExcerptQuery: flag,
        OnlyMemberQuery: flag,
        TopSkipQuery: flag,
      }),
      Systems: link,
      Chassis: link,
      Managers: link,
      SessionService: link,
      AccountService: link,
      EventService: link,
      Links: object({ Sessions: link }, ['Sessions']),
    },
    ['RedfishVersion', 'Links'],
  ),
  ComputerSystem: of({
    SystemType: oneOf('Physical', 'Virtual', 'OS', 'PhysicallyPartitioned', 'VirtuallyPartitioned', 'Composed'),
    HostName: text,
    Manufacturer: text,
    Model: text,
    SerialNumber: text,
    PowerState: power,
    Status: status,
    Storage: link,
    Links: object({ Chassis: links, ManagedBy: links }),
  }),
  Storage: of({
    Status: status,
    Controllers: link,
    'Drives@odata.count': count,
    Drives: links,
    Volumes: link,
    StoragePools: link,
    Links: object({ Enclosures: links }),
  }),
  StorageController: of({
    Status: status,
    SupportedDeviceProtocols: list(protocol),
    SupportedControllerProtocols: list(protocol),
    Manufacturer: text,
  }),
  Drive: of(
    {
      Status: status,
      StatusIndicator: oneOf(
        'OK',
        'Fail',
        'Rebuild',
        'PredictiveFailureAnalysis',
        'Hotspare',
        'InACriticalArray',
        'InAFailedArray',
      ),
      HotspareType: oneOf('None', 'Global', 'Chassis', 'Dedicated'),
      Manufacturer: maybe(text),
      Model: maybe(text),
      SerialNumber: maybe(text),
      CapacityBytes: maybe(count),
      BlockSizeBytes: count,
      MediaType: oneOf('HDD', 'SSD', 'SMR'),
      Protocol: protocol,
      FailurePredicted: flag,
      PredictedMediaLifeLeftPercent: { type: 'number' },
      LocationIndicatorActive: flag,
      Metrics: link,
      EnvironmentMetrics: link,
      Operations: operations,
      PhysicalLocation: object({
        PartLocation: object({
          LocationType: oneOf('Slot', 'Bay', 'Connector', 'Socket', 'Backplane', 'Embedded'),
          ServiceLabel: text,
          LocationOrdinalValue: count,
        }),
      }),
      Links: object({ Chassis: link, Volumes: links }),
    },
    ['Status'],
  ),
  DriveMetrics: of({ PowerOnHours: count, BadBlockCount: count, UncorrectableIOReadErrorCount: count }),
  EnvironmentMetrics: of({ TemperatureCelsius: object({ Reading: { type: 'number' } }) }),
  Volume: of({
    Status: status,
    CapacityBytes: count,
    Capacity: capacity,
    RemainingCapacityPercent: { ...percent, type: 'integer' },
    RAIDType: oneOf(
      'RAID0',
      'RAID1',
      'RAID3',
      'RAID4',
      'RAID5',
      'RAID6',
      'RAID10',
      'RAID01',
      'RAID50',
      'RAID60',
      'None',
    ),
    BlockSizeBytes: count,
    Operations: operations,
    Links: object({ Drives: links, DedicatedSpareDrives: links }),
  }),
  StoragePool: of({
    Status: status,
    Capacity: capacity,
    AllocatedVolumes: link,
    Links: object({ DedicatedSpareDrives: links }),
  }),
  Chassis: of(
    {
      ChassisType: oneOf('StandAlone', 'Enclosure', 'RackMount', 'Shelf', 'Expansion', 'StorageEnclosure', 'Other'),
      Manufacturer: text,
      Model: text,
      PowerState: power,
      Status: status,
      Drives: link,
      Power: link,
      Thermal: link,
      PowerSubsystem: link,
      ThermalSubsystem: link,
      Links: object({ ComputerSystems: links, ManagedBy: links, Storage: links, Contains: links, ContainedBy: link }),
    },
    ['ChassisType'],
  ),
  PowerSubsystem: of({ Status: status, PowerSupplies: link }),
  PowerSupply: of({ PowerSupplyType: oneOf('AC', 'DC', 'ACorDC', 'DCregulator'), Status: status }),
  ThermalSubsystem: of({ Status: status, Fans: link }),
  Fan: of({ Status: status, SpeedPercent: object({ Reading: percent }) }),
  Power: of({
    PowerSupplies: list(
      object(
        {
          '@odata.id': text,
          MemberId: text,
          Name: text,
          PowerSupplyType: oneOf('AC', 'DC', 'ACorDC', 'Unknown'),
          Status: status,
        },
        ['@odata.id', 'MemberId'],
      ),
    ),
    'PowerSupplies@odata.count': count,
  }),
  Thermal: of({
    Fans: list(
      object(
        {
          '@odata.id': text,
          MemberId: text,
          Name: text,
          Reading: count,
          ReadingUnits: oneOf('RPM', 'Percent'),
          Status: status,
        },
        ['@odata.id', 'MemberId'],
      ),
    ),
    'Fans@odata.count': count,
  }),
  Manager: of({
    ManagerType: oneOf(
      'ManagementController',
      'EnclosureManager',
      'BMC',
      'RackManager',
      'AuxiliaryController',
      'Service',
    ),
    FirmwareVersion: text,
    DateTime: moment,
    DateTimeLocalOffset: { type: 'string', pattern: '^[+-]\\d\\d:\\d\\d$' },
    LastResetTime: moment,
    Status: status,
    Links: object({ ManagerForServers: links, ManagerForChassis: links }),
  }),
  SessionService: of({
    ServiceEnabled: flag,
    SessionTimeout: { type: 'integer', minimum: 30, maximum: 86_400 },
    Status: status,
    Sessions: link,
  }),
  Session: of({ UserName: text, CreatedTime: moment }),
  AccountService: of({ ServiceEnabled: flag, Status: status, Accounts: link, Roles: link }),
  ManagerAccount: of(
    {
      UserName: text,
      Password: { type: 'null' },
      RoleId: text,
      Enabled: flag,
      Locked: flag,
      AccountTypes: list(oneOf('Redfish', 'SNMP', 'OEM', 'HostConsole', 'ManagerConsole', 'IPMI', 'KVMIP', 'WebUI')),
      Links: object({ Role: link }),
    },
    ['AccountTypes', 'Password'],
  ),
  Role: of({
    RoleId: text,
    IsPredefined: flag,
    AssignedPrivileges: list(
      oneOf('Login', 'ConfigureManager', 'ConfigureUsers', 'ConfigureSelf', 'ConfigureComponents'),
    ),
  }),
  EventService: of({
    ServiceEnabled: flag,
    Status: status,
    DeliveryRetryAttempts: count,
    DeliveryRetryIntervalSeconds: count,
    EventFormatTypes: list(oneOf('Event', 'MetricReport')),
    RegistryPrefixes: list(text),
    ResourceTypes: list(text),
    Subscriptions: link,
    Actions: object({ '#EventService.SubmitTestEvent': object({ target: text }, ['target']) }),
  }),
  EventDestination: of(
    {
      Destination: text,
      Protocol: oneOf('Redfish', 'Kafka', 'SNMPv1', 'SNMPv2c', 'SNMPv3', 'SMTP', 'SyslogTLS', 'OEM'),
      SubscriptionType: oneOf('RedfishEvent', 'SSE', 'SNMPTrap', 'SNMPInform', 'Syslog', 'OEM'),
      EventFormatType: oneOf('Event', 'MetricReport'),
      Context: maybe(text),
      Status: status,
    },
    ['Destination', 'Context', 'Protocol', 'SubscriptionType'],
  ),
};

const COMMON = {
  '@odata.id': { type: 'string', pattern: '^(/unit-\\d+)?/redfish/v1(/[^\\s?#]*)?$' },
  '@odata.etag': { type: 'string', pattern: '^(W/)?"[^"]+"$' },
  Id: text,
  Name: text,
} as const;

/** The kind of a type, as "Drive" of "#Drive.v1_17_0.Drive"; `undefined` where it is written as none is. */
export function kindOf(type: unknown): string | undefined {
  const [, kind, , again] = /^#(\w+)\.((?:v\d+_\d+_\d+\.)?)(\w+)$/.exec(typeof type === 'string' ? type : '') ?? [];
  return kind === again ? kind : undefined;
}

/** The JSON Schema of a resource of a kind; `undefined` where no such kind is played. */
export function shapeOf(kind: string): object | undefined {
  const odata = { ...COMMON, '@odata.type': { type: 'string', pattern: `^#${kind}\\.` } };
  const [, member] = /^(\w+)Collection$/.exec(kind) ?? [];
  if (member !== undefined)
    return SHAPES[member] === undefined
      ? undefined
      : object(
          {
            ...odata,
            'Members@odata.count': count,
            'Members@odata.nextLink': text,
            Members: links,
          },
          ['@odata.id', '@odata.type', 'Name', 'Members', 'Members@odata.count'],
        );
  const shape = SHAPES[kind];
  return (
    shape &&
    object({ ...odata, ...shape.properties }, ['@odata.id', '@odata.type', 'Id', 'Name', ...(shape.required ?? [])])
  );
}
