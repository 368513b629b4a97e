import { parseArgs } from 'node:util';
import { Sentence } from './sentence';

/** The one file and the switch that bin/backup and bin/restore take. */
export function fileAndDemo(args: string[], usage: string): { readonly file: string | undefined; readonly isDemo: boolean } {
  try {
    const { values, positionals } = parseArgs({ args, options: { demo: { type: 'boolean' } }, allowPositionals: true });
    if (positionals.length > 1) throw new Error('One file at a time.');
    return { file: positionals[0], isDemo: values.demo ?? false };
  } catch (error) {
    throw new Sentence(`${(error as Error).message.split('.')[0] ?? ''}. ${usage}`);
  }
}

export function databaseName(isDemo: boolean): string {
  return isDemo ? 'patient_shelf_demo' : 'patient_shelf';
}
