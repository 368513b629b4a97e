/** What a drive is, as a plan needs it. */
export interface DriveFacts {
  readonly bytes: number;
  readonly basis: 'exact' | 'label' | 'binary';
  readonly label?: string;
  readonly model?: string;
  readonly media?: 'hard-disk' | 'shingled' | 'ssd' | 'nvme';
}

/** What a plan needs of a drive, of all that is known of it. */
export function driveFacts({ bytes, basis, label, model, media }: DriveFacts): DriveFacts {
  return {
    bytes,
    basis,
    ...(label === undefined ? {} : { label }),
    ...(model === undefined ? {} : { model }),
    ...(media === undefined ? {} : { media }),
  };
}

/** What stands on a drive besides its serial: its size. */
export function sizeFacts({ bytes, basis, label }: DriveFacts): Pick<DriveFacts, 'bytes' | 'basis' | 'label'> {
  return { bytes, basis, ...(label === undefined ? {} : { label }) };
}
