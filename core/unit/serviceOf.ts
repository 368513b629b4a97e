import type { UnitState } from './state';

/** How hands get to the drives of a unit. */
export interface Service {
  /** Drives are changed with the unit switched off. */
  readonly isCold: boolean;
  /** Bays are inside the case. */
  readonly opensCase: boolean;
  /** A bay can be made to blink. */
  readonly locateLight: boolean;
}

/** How hands get to the drives of a unit: as its family has it, unless the unit is recorded to differ. */
export function serviceOf({ profile, details }: Pick<UnitState, 'profile' | 'details'>): Service {
  const { service } = profile;
  const { driveChange, locateLight } = details;
  const opensCase = driveChange == null ? service.opensCase : driveChange === 'case-opened';
  return {
    opensCase,
    isCold: driveChange == null ? opensCase || !service.hotSwap.includes('drives') : driveChange !== 'running',
    locateLight: locateLight == null ? service.locateLight : locateLight === 'yes',
  };
}
