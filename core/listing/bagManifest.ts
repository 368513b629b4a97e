import type { Listing } from './listing';

const ALGORITHMS: Readonly<Record<number, string>> = {
  32: 'md5',
  40: 'sha1',
  64: 'sha256',
  96: 'sha384',
  128: 'sha512',
};

/** A payload manifest, by the name it has in its bag. */
export interface BagManifest {
  readonly name: string;
  readonly text: string;
  /** Files without a checksum, which a manifest cannot have. */
  readonly without: number;
}

/**
 * The files of a list as payload manifests of a bag (RFC 8493, 2.1.3): one for each kind of checksum, "data/" before each
 * path, line ends and percent signs in names written with a percent sign.
 */
export function bagManifests({ files }: Pick<Listing, 'files'>): readonly BagManifest[] {
  const lines = new Map<string, string[]>();
  let without = 0;
  for (const { path, sum } of files) {
    const algorithm = sum === undefined ? undefined : ALGORITHMS[sum.length];
    if (algorithm === undefined) {
      without++;
      continue;
    }
    const line = `${sum ?? ''}  data/${quoted(path.replace(/^data\//, ''))}`;
    const of = lines.get(algorithm);
    if (of) of.push(line);
    else lines.set(algorithm, [line]);
  }
  return [...lines].map(([algorithm, all]) => ({
    name: `manifest-${algorithm}.txt`,
    text: `${all.join('\n')}\n`,
    without,
  }));
}

function quoted(path: string): string {
  return path.replaceAll(/[%\n\r]/g, (one) => (one === '%' ? '%25' : one === '\n' ? '%0A' : '%0D'));
}
