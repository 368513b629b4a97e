import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { Ajv2020 } from 'ajv/dist/2020.js';
import standaloneModule from 'ajv/dist/standalone/index.js';
import formatsModule from 'ajv-formats';
import { build } from 'esbuild';
import { AJV_OPTIONS, withoutIds } from '../service/door/validation';
import { OPERATIONS } from '../service/operations';
import { ROOT } from './folders';

/** Where forms look for them: made with the build, never kept. */
export const FORM_CHECKS = join(ROOT, 'web', '.checks');

/** Bodies no form sends: whole exports, sheets of the bench, acts over many ledgers. */
const NOT_FROM_FORMS = ['/import', '/acts', '/layouts', '/appraisals', '/growth', '/forecasts', '/comparisons'];

/**
 * The checks of what forms send, one small program each, from the same JSON Schemas the server checks with: a page may
 * not compile them itself, its policy forbids to make code of text.
 */
export async function makeFormChecks(): Promise<void> {
  rmSync(FORM_CHECKS, { recursive: true, force: true });
  mkdirSync(FORM_CHECKS, { recursive: true });
  const listed: string[] = [];
  for (const { method, path, bodySchema } of OPERATIONS) {
    if (!bodySchema || NOT_FROM_FORMS.includes(path)) continue;
    const file = `${method}${path}`.toLowerCase().replaceAll(/[^a-z]+/g, '-');
    writeFileSync(join(FORM_CHECKS, `${file}.mjs`), await programOf(bodySchema));
    listed.push(`  '${method} ${path}': () => import('./${file}.mjs'),`);
  }
  writeFileSync(join(FORM_CHECKS, 'index.mjs'), `export const CHECKS = {\n${listed.join('\n')}\n};\n`);
}

/** A check as a module that needs nothing else. */
export async function programOf(schema: object): Promise<string> {
  const [standalone, addFormats] = [inside(standaloneModule), inside(formatsModule)];
  const ajv = new Ajv2020({ ...AJV_OPTIONS, allErrors: true, code: { source: true, esm: true } });
  addFormats(ajv);
  const contents = standalone(ajv, ajv.compile(withoutIds(schema) as object));
  const { outputFiles } = await build({
    stdin: { contents, resolveDir: ROOT },
    bundle: true,
    minify: true,
    format: 'esm',
    platform: 'browser',
    write: false,
    logLevel: 'silent',
  });
  return outputFiles[0]?.text ?? '';
}

/** What a module of the other kind exports by default. */
function inside<T>(module: T): T extends { default: infer D } ? D : T {
  return ((module as { default?: unknown }).default ?? module) as T extends { default: infer D } ? D : T;
}
