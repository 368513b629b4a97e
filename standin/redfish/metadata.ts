/** Schemas whose types are used here, with the versions that are meant. */
const SCHEMAS = {
  ServiceRoot: 'v1_16_0',
  ComputerSystemCollection: null,
  ComputerSystem: 'v1_20_0',
  StorageCollection: null,
  Storage: 'v1_15_0',
  StorageControllerCollection: null,
  StorageController: 'v1_7_0',
  DriveCollection: null,
  Drive: 'v1_17_0',
  DriveMetrics: 'v1_2_0',
  EnvironmentMetrics: 'v1_3_0',
  VolumeCollection: null,
  Volume: 'v1_9_0',
  StoragePoolCollection: null,
  StoragePool: 'v1_9_0',
  ChassisCollection: null,
  Chassis: 'v1_25_0',
  Power: 'v1_7_2',
  Thermal: 'v1_7_3',
  PowerSubsystem: 'v1_1_2',
  PowerSupplyCollection: null,
  PowerSupply: 'v1_6_0',
  ThermalSubsystem: 'v1_3_2',
  FanCollection: null,
  Fan: 'v1_5_1',
  ManagerCollection: null,
  Manager: 'v1_18_0',
  SessionService: 'v1_1_9',
  SessionCollection: null,
  Session: 'v1_7_1',
  AccountService: 'v1_15_0',
  ManagerAccountCollection: null,
  ManagerAccount: 'v1_12_0',
  RoleCollection: null,
  Role: 'v1_3_1',
  EventService: 'v1_10_1',
  EventDestinationCollection: null,
  EventDestination: 'v1_14_1',
  Event: 'v1_10_1',
  Message: 'v1_2_0',
} as const;

/** The metadata document of the service (DSP0266, OData `$metadata`): which schemas it speaks. */
export function metadata(): string {
  const references = Object.entries(SCHEMAS).map(([name, version]) => {
    const where = `http://redfish.dmtf.org/schemas/v1/${name}_v1.xml`;
    const versioned = version === null ? '' : `<edmx:Include Namespace="${name}.${version}"/>`;
    return `<edmx:Reference Uri="${where}"><edmx:Include Namespace="${name}"/>${versioned}</edmx:Reference>`;
  });
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<edmx:Edmx xmlns:edmx="http://docs.oasis-open.org/odata/ns/edmx" Version="4.0">',
    ...references,
    '<edmx:DataServices>',
    '<Schema xmlns="http://docs.oasis-open.org/odata/ns/edm" Namespace="Service">',
    '<EntityContainer Name="Service" Extends="ServiceRoot.v1_16_0.ServiceContainer"/>',
    '</Schema>',
    '</edmx:DataServices>',
    '</edmx:Edmx>',
    '',
  ].join('\n');
}
