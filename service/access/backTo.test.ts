import { backTo } from './backTo';

it.each<[string | readonly string[] | undefined, string]>([
  [undefined, '/'],
  ['/units/1?bay=2', '/units/1?bay=2'],
  ['/', '/'],
  ['//elsewhere.example/', '/'],
  ['/\\elsewhere.example/', '/'],
  ['\\\\elsewhere.example', '/'],
  ['/\t/elsewhere.example', '/'],
  ['/\n/elsewhere.example', '/'],
  ['/%09/elsewhere.example', '/%09/elsewhere.example'],
  ['https://elsewhere.example/', '/'],
  ['javascript:alert(1)', '/'],
  ['/..//elsewhere.example', '/'],
  ['/.//elsewhere.example', '/'],
  [['/a', '/b'], '/'],
  ['', '/'],
])('from %j leads to %s', (from, to) => {
  expect(backTo(from)).toBe(to);
  // As a browser reads it, it stays here.
  expect(new URL(backTo(from), 'http://shelf.example').origin).toBe('http://shelf.example');
});
