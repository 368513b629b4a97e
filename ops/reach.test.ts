import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { reachAsked, type ReachAsked } from './reach';
import { selfSigned } from './selfSigned';

const folder = mkdtempSync(join(tmpdir(), 'patient-shelf-reach-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const at = (name: string): string => join(folder, name);

function pair(name: string): { readonly certificate: string; readonly key: string } {
  const files = { certificate: at(`${name}.pem`), key: at(`${name}.key`) };
  selfSigned(files);
  return files;
}
const one = pair('one');
const two = pair('two');
writeFileSync(at('none'), 'nothing');

const NOW = new Date();
const reach = (asked: Omit<ReachAsked, 'port'>) => reachAsked({ port: 4380, ...asked }, NOW);

it.each<readonly [Omit<ReachAsked, 'port'>, string]>([
  [{}, 'http://127.0.0.1:4380'],
  [{ listen: '127.0.0.1', ...one }, 'https://127.0.0.1:4380'],
  [{ listen: '192.168.7.2', ...one }, 'https://192.168.7.2:4380'],
  [{ listen: 'fd00::2', ...one }, 'https://[fd00::2]:4380'],
  [{ listen: '0.0.0.0', url: 'https://shelf.example', ...one }, 'https://shelf.example'],
  [{ url: 'https://shelf.example:8443/', 'behind-proxy': true }, 'https://shelf.example:8443'],
  [{ listen: '::1', url: 'http://localhost:4380' }, 'http://localhost:4380'],
])('%j is called %s', (asked, url) => {
  expect(reach(asked).url).toBe(url);
});

it.each<readonly [Omit<ReachAsked, 'port'>, RegExp]>([
  [{ listen: 'shelf.example' }, /is not an address to listen on/],
  [{ listen: '192.168.7.2' }, /^Plain http is for this machine alone/],
  [{ listen: '0.0.0.0', url: 'http://shelf.example' }, /^Plain http is for this machine alone/],
  [{ listen: '0.0.0.0', ...one }, /needs one to be called by/],
  [{ certificate: one.certificate }, /goes with its key/],
  [{ key: one.key }, /goes with its key/],
  [{ ...one, 'behind-proxy': true, url: 'https://shelf.example' }, /not both/],
  [{ 'behind-proxy': true }, /give it as --url/],
  [{ 'behind-proxy': true, url: 'http://shelf.example' }, /begins with https/],
  [{ url: 'https://shelf.example' }, /needs --certificate/],
  [{ url: 'shelf', ...one }, /is not an address/],
  [{ url: 'https://shelf.example/here', ...one }, /is a name alone/],
  [{ url: 'https://me@shelf.example', ...one }, /is a name alone/],
  [{ certificate: at('nowhere'), key: one.key }, /cannot be read/],
  [{ certificate: at('none'), key: one.key }, /is no certificate/],
  [{ certificate: one.certificate, key: at('none') }, /is no private key/],
  [{ certificate: one.certificate, key: two.key }, /is not the key of/],
])('%j is refused in one sentence', (asked, sentence) => {
  expect(() => reach(asked)).toThrow(sentence);
});

it('refuses a certificate that ran out', () => {
  expect(() => reachAsked({ port: 4380, ...one }, new Date(NOW.getTime() + 3 * 86_400_000))).toThrow(
    /ran out on 20\d\d-\d\d-\d\d/,
  );
});
