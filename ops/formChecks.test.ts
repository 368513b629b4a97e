import { OPERATIONS } from '../service/operations';
import { compileCheck } from '../service/door/validation';
import { explainFaults, type SchemaFault } from '../schemas/faults';
import { programOf } from './formChecks';

type Check = ((body: unknown) => boolean) & { readonly errors?: readonly SchemaFault[] | null };

async function checkOf(schema: object): Promise<Check> {
  const text = await programOf(schema);
  // As a page gets it: it makes no code of text, which its policy forbids. A boolean, so that a fault is no page of text.
  expect(/new Function|\beval\(|^import /.test(text)).toBe(false);
  return ((await import(`data:text/javascript,${encodeURIComponent(text)}`)) as { default: Check }).default;
}

const bodyOf = (method: string, path: string): object => {
  const found = OPERATIONS.find((one) => one.method === method && one.path === path)?.bodySchema;
  if (!found) throw new Error('no such operation');
  return found;
};

// The reference is the server's own check of the same body.
it.each([
  ['POST', '/people', { name: 'Rolf', email: 'rolf@example.org', role: 'reader' }],
  ['POST', '/people', { name: '', email: 'nonsense', role: 'king', extra: 1 }],
  ['POST', '/drive-orders', { supplier: 'S', count: 0, drive: { bytes: 1.5 } }],
  [
    'POST',
    '/drives/{serial}/events',
    { expectedVersion: 1, event: { kind: 'wiped', method: 'purge', how: '', by: 'M', checked: true } },
  ],
  [
    'POST',
    '/drives/{serial}/events',
    { expectedVersion: 1, event: { kind: 'described', drive: { bytes: 8, basis: 'exact', boughtOn: '2026-02-30' } } },
  ],
  ['POST', '/units/{id}/events', { expectedVersion: 1, event: { kind: 'no-such-thing' } }],
  ['POST', '/units', {}],
])('finds in %s %s what the server finds', async (method, path, body) => {
  const schema = bodyOf(method, path);
  const check = await checkOf(schema);
  const server = compileCheck(schema)(body);
  expect(check(body)).toBe(server.kind === 'valid');
  expect(explainFaults(check.errors ?? [])).toEqual(server.kind === 'valid' ? [] : server.errors);
});
