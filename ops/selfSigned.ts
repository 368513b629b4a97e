import { openssl } from './packages';

/** A certificate of one's own with its key, as anybody makes one; for the tests. */
export function selfSigned(
  { certificate, key }: { readonly certificate: string; readonly key: string },
  names: readonly string[] = [],
  days = 2,
): void {
  const alternative = names.length === 0 ? [] : ['-addext', `subjectAltName=${names.join(',')}`];
  const curve = ['-newkey', 'ec', '-pkeyopt', 'ec_paramgen_curve:prime256v1', '-nodes'];
  openssl([
    'req',
    '-x509',
    ...curve,
    '-subj',
    '/CN=shelf.example',
    '-days',
    String(days),
    ...alternative,
    '-keyout',
    key,
    '-out',
    certificate,
  ]);
}
