import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { buildGenerator, programFromConfig } from 'typescript-json-schema';
import { ROOT } from './folders';
import { tidySchema, type Schema } from './tidySchema';

/** Writes schemas/answers.json from the types of what the operations answer; with --check, says whether it is what they are. */
const FILE = join(ROOT, 'schemas', 'answers.json');

const program = programFromConfig(join(ROOT, 'tsconfig.json'), [join(ROOT, 'service', 'contract.ts')]);
// It looks for initial values, and would say of each field that it has none.
console.warn = () => undefined;
const generator = buildGenerator(program, {
  required: true,
  ref: true,
  aliasRef: true,
  topRef: false,
  ignoreErrors: true,
});
if (!generator) throw new Error('The types of the answers cannot be read.');
const text = oneALine(tidySchema(generator.getSchemaForSymbol('Answers') as Schema));

if (!process.argv.includes('--check')) writeFileSync(FILE, text);
else if (readFileSync(FILE, 'utf8') !== text) {
  console.error('schemas/answers.json is not what the operations answer: run `npm run types:answers`.');
  process.exit(1);
}

/** A line for each answer and each part, so that a change of one shows as a change of one line. */
function oneALine(schemas: Readonly<Record<string, Readonly<Record<string, unknown>>>>): string {
  const lines = (record: Readonly<Record<string, unknown>>): string =>
    Object.entries(record)
      .map(([name, schema]) => `    ${JSON.stringify(name)}: ${JSON.stringify(schema)}`)
      .join(',\n');
  return `{\n${Object.entries(schemas)
    .map(([name, record]) => `  ${JSON.stringify(name)}: {\n${lines(record)}\n  }`)
    .join(',\n')}\n}\n`;
}
