import { parseArgs } from 'node:util';
import { Sentence } from './sentence';

export interface FileAsked {
  readonly file: string | undefined;
  readonly isDemo: boolean;
  readonly isAnyway: boolean;
}

/**
 * The one file and the switches that bin/backup and bin/restore take.
 *
 * @param switches those there are beside --demo
 */
export function fileAndDemo(args: string[], usage: string, switches: { readonly anyway?: boolean } = {}): FileAsked {
  try {
    const { values, positionals } = parseArgs({
      args,
      options: { demo: { type: 'boolean' }, anyway: { type: 'boolean' } },
      allowPositionals: true,
    });
    if (positionals.length > 1) throw new Error('One file at a time.');
    if (values.anyway === true && switches.anyway !== true) throw new Error('There is no --anyway here.');
    return { file: positionals[0], isDemo: values.demo ?? false, isAnyway: values.anyway ?? false };
  } catch (error) {
    throw new Sentence(`${(error as Error).message.split('.')[0] ?? ''}. ${usage}`);
  }
}

export function databaseName(isDemo: boolean): string {
  return isDemo ? 'patient_shelf_demo' : 'patient_shelf';
}
