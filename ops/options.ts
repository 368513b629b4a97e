import { parseArgs } from 'node:util';
import { Sentence } from './sentence';

export interface FileAsked {
  readonly file: string | undefined;
  readonly isDemo: boolean;
  readonly isAnyway: boolean;
  readonly isEmpty: boolean;
  /** How many of those in the folder for backups are kept; left out: all. */
  readonly keep: number | undefined;
}

/**
 * The one file and the switches that bin/backup and bin/restore take.
 *
 * @param switches those there are beside --demo
 */
export function fileAndDemo(
  args: string[],
  usage: string,
  switches: readonly ('anyway' | 'empty' | 'keep')[] = [],
): FileAsked {
  try {
    const { values, positionals } = parseArgs({
      args,
      options: {
        demo: { type: 'boolean' },
        anyway: { type: 'boolean' },
        empty: { type: 'boolean' },
        keep: { type: 'string' },
      },
      allowPositionals: true,
    });
    if (positionals.length > 1) throw new Error('One file at a time.');
    for (const one of ['anyway', 'empty', 'keep'] as const)
      if (values[one] !== undefined && !switches.includes(one)) throw new Error(`There is no --${one} here.`);
    if (values.keep !== undefined && !/^[1-9]\d{0,3}$/.test(values.keep))
      throw new Error(`--keep is a number from 1 to 9999, not "${values.keep}".`);
    return {
      file: positionals[0],
      isDemo: values.demo ?? false,
      isAnyway: values.anyway ?? false,
      isEmpty: values.empty ?? false,
      keep: values.keep === undefined ? undefined : Number(values.keep),
    };
  } catch (error) {
    throw new Sentence(`${(error as Error).message.split('.')[0] ?? ''}. ${usage}`);
  }
}

export function databaseName(isDemo: boolean): string {
  return isDemo ? 'patient_shelf_demo' : 'patient_shelf';
}
