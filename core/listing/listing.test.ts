import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { bagManifests } from './bagManifest';
import { compareListings, type ListingsCompared } from './compareListings';
import { LEFT_OUT, leavesOut } from './leftOut';
import { plainPath, type ListedFile, type Listing } from './listing';
import { readListing } from './readListing';
import { isListingHead, listingOfRows } from './rowsListing';
import { shortComparison } from './shortComparison';

const listing = (...files: readonly ListedFile[]): Listing => ({
  kind: 'listing',
  files,
  problems: [],
  problemCount: 0,
});
const paths = (of: readonly { readonly path: string }[]): string[] => of.map(({ path }) => path).sort();

describe('lists as commands of the machine write them', () => {
  const TREE: Readonly<Record<string, string>> = {
    'maps/field one.tif': 'a picture',
    'maps/deep/er/x.tif': 'another',
    'accounts/2025.csv': 'a,b',
    'accounts/ß-ı %41.txt': 'odd names',
    'accounts/back\\slash.txt': 'a backslash',
  };
  const folder = mkdtempSync(join(tmpdir(), 'shelf-listing-'));
  for (const [path, text] of Object.entries(TREE)) {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileSync(join(folder, path), text);
  }
  afterAll(() => rmSync(folder, { recursive: true }));
  const run = (command: string): string =>
    execFileSync('/bin/sh', ['-c', `cd "$1" && ${command}`, 'sh', folder], {
      encoding: 'utf8',
      env: { ...process.env, LC_ALL: 'C.UTF-8' },
    });

  it.each([
    ['sha256sum', "find . -type f -exec sha256sum '{}' +", ['sum']],
    ['sha256sum of binary files', "find . -type f -exec sha256sum -b '{}' +", ['sum']],
    ['md5sum', "find . -type f -exec md5sum '{}' +", ['sum']],
    ['sha1sum with names of its kind', "find . -type f ! -name '*slash*' -exec sha1sum --tag '{}' +", ['sum']],
    ['find with size and time', "find . -type f -printf '%s\\t%T@\\t%p\\n'", ['size', 'time']],
    ['find alone', 'find . -type f', []],
    ['ls of every folder', 'LC_ALL=C ls -lRN', ['size']],
  ] as const)('reads %s', (name, command, says) => {
    const read = readListing(run(command));
    expect(read.problems).toEqual([]);
    const expected = Object.keys(TREE).filter((path) => !name.includes('of its kind') || !path.includes('slash'));
    expect(paths(read.files)).toEqual([...expected].sort());
    for (const file of read.files) {
      if ((says as readonly string[]).includes('size')) expect(file.size).toBe(statSync(join(folder, file.path)).size);
      if ((says as readonly string[]).includes('time'))
        expect(Math.abs((file.time ?? 0) - statSync(join(folder, file.path)).mtimeMs)).toBeLessThanOrEqual(1);
      if ((says as readonly string[]).includes('sum')) expect(file.sum).toMatch(/^[0-9a-f]{32,64}$/);
    }
  });

  it('writes manifests the machine’s own command finds right, and reads them again', () => {
    // RFC 8493: below data/, with the checksum of each file.
    const [manifest] = bagManifests(readListing(run("find . -type f ! -name '*slash*' -exec sha256sum '{}' +")));
    expect(manifest).toMatchObject({ name: 'manifest-sha256.txt', without: 0 });
    const text = (manifest?.text ?? '').replaceAll('  data/', '  ').replaceAll('%25', '%');
    const checked = execFileSync('/bin/sh', ['-c', 'cd "$1" && sha256sum --check --strict -', 'sh', folder], {
      input: text,
      encoding: 'utf8',
    });
    expect(checked.match(/: OK$/gm)).toHaveLength(4);
    expect(paths(readListing(manifest?.text ?? '').files)).toEqual(
      Object.keys(TREE)
        .filter((path) => !path.includes('slash'))
        .map((path) => `data/${path}`)
        .sort(),
    );
  });
});

describe('a list of files', () => {
  it('reads a manifest whose blanks are tabs (RFC 8493, 2.1.3)', () => {
    const sum = 'a'.repeat(64);
    expect(readListing(`${sum}\tdata/one two.txt\n${sum} \t data/b.txt\n`).files).toEqual([
      { path: 'data/one two.txt', sum },
      { path: 'data/b.txt', sum },
    ]);
  });

  it('says where files were compared by nothing but their names', () => {
    const names = readListing('a/1\na/2\n');
    const told = (left: Listing, right: Listing) => shortComparison(compareListings(left, right), left, right, 10);
    const alone = told(names, names);
    expect([alone.same, alone.sameBy]).toEqual([2, { checksum: 0, size: 0, path: 2 }]);
    expect(alone.words).toMatch(/^No name is missing: 2 files are in both lists, by path alone: .*nobody can tell/);
    const sum = 'b'.repeat(64);
    const mixed = readListing(`${sum}  a/1\na/2\n`);
    expect(told(mixed, mixed).words).toBe(
      'Nothing is missing and nothing differs: 2 files are the same, 1 by checksum, 1 by path alone.',
    );
  });

  it('reads the manifest of RFC 8493, 4.1 (from memory), and names with line ends', () => {
    const read = readListing(
      '49afbd86a1ca9f34b677a3f09655eae9 data/27613-h/images/q172.png\n408ad21d50cef31da4df6d9ed81b01a7 data/27613-h/images/q172.txt\n',
    );
    expect(read.files).toEqual([
      { path: 'data/27613-h/images/q172.png', sum: '49afbd86a1ca9f34b677a3f09655eae9' },
      { path: 'data/27613-h/images/q172.txt', sum: '408ad21d50cef31da4df6d9ed81b01a7' },
    ]);
    const odd = listing({ path: 'a\nb%\r', sum: 'f'.repeat(64) }, { path: 'no sum' });
    const [manifest] = bagManifests(odd);
    expect(manifest).toMatchObject({ text: `${'f'.repeat(64)}  data/a%0Ab%25%0D\n` });
    expect(readListing(manifest?.text ?? '').files).toEqual([{ path: 'data/a\nb%\r', sum: 'f'.repeat(64) }]);
  });

  it('reads sheets by their heads, and names the row that is none', () => {
    expect(isListingHead(['Directory', 'Name', 'Length'])).toBe(true);
    expect(isListingHead(['sum', 'size'])).toBe(false);
    const { files, problems } = listingOfRows([
      ['Directory', 'Name', 'Length', 'LastWriteTime', 'Hash'],
      ['E:\\maps', 'a.tif', '1,024', '2026-01-02T03:04:05Z', 'ABCD'],
      ['', '', '', '', ''],
      ['E:\\maps', 'b.tif', 'ten', '', ''],
    ]);
    expect(files).toEqual([{ path: 'maps/a.tif', size: 1024, time: Date.UTC(2026, 0, 2, 3, 4, 5), sum: 'abcd' }]);
    expect(problems).toEqual([{ line: 4, reason: '“ten” is no size in bytes' }]);
  });

  it('writes a path in one way', () => {
    expect(['./a/b', '/a/b', 'C:\\a\\b', 'C:/a/b', '././a/b'].map(plainPath)).toEqual(Array(5).fill('a/b'));
  });

  it('leaves out recycle areas and thumbnails, and nothing that only looks like them', () => {
    const isOut = leavesOut(LEFT_OUT);
    for (const path of ['$RECYCLE.BIN/x', 'maps/.Trash-1000/y', 'a/Thumbs.db', 'a/.DS_Store', '.thumbnails/z'])
      expect([path, isOut(path)]).toEqual([path, true]);
    for (const path of ['recycle.txt', 'maps/thumbs.db.txt', 'trash/x', 'a/desktop.ini2'])
      expect([path, isOut(path)]).toEqual([path, false]);
    // A star inside a name is a star: many of them take no longer.
    const many = leavesOut([`${'*a'.repeat(120)}b`, 'x*y']);
    expect([many(`${'a'.repeat(50_000)}`), many('xzy'), many('x*y')]).toEqual([false, false, true]);
  });

  it('says of bad lines which they are, and counts the rest', () => {
    const { problems, problemCount, files } = readListing(`${'a'.repeat(64)} \n./\nx/y\n`);
    expect(files).toEqual([{ path: 'x/y' }]);
    expect([problems.map(({ line }) => line), problemCount]).toEqual([[1, 2], 2]);
  });
});

describe('two lists held against each other', () => {
  const one = (path: string, size = 1, sum?: string): ListedFile => ({
    path,
    size,
    ...(sum === undefined ? {} : { sum }),
  });

  it('finds missing, different, extra and moved, with totals by share', () => {
    const left = listing(
      one('maps/a'),
      one('maps/b', 5),
      one('maps/c', 7),
      one('papers/x', 3),
      one('papers/thumbs.db'),
    );
    const right = listing(one('maps/a'), one('maps/b', 6), one('papers/new', 9), one('papers/x', 3), one('old/c', 7));
    const seen = compareListings(left, right);
    expect(seen).toMatchObject({ same: 2, leftOut: 1, twice: 0, by: ['size'] });
    expect(seen.different).toMatchObject([{ path: 'maps/b', by: 'size' }]);
    expect(paths(seen.extra)).toEqual(['papers/new']);
    expect(seen.missing).toEqual([]);
    expect(seen.moved).toEqual([{ from: 'maps/c', to: 'old/c' }]);
    expect(seen.shares).toEqual([
      {
        share: 'maps',
        left: { files: 3, bytes: 13 },
        right: { files: 2, bytes: 7 },
        same: 1,
        missing: 1,
        different: 1,
        extra: 0,
      },
      {
        share: 'old',
        left: { files: 0, bytes: 0 },
        right: { files: 1, bytes: 7 },
        same: 0,
        missing: 0,
        different: 0,
        extra: 1,
      },
      {
        share: 'papers',
        left: { files: 1, bytes: 3 },
        right: { files: 2, bytes: 12 },
        same: 1,
        missing: 0,
        different: 0,
        extra: 1,
      },
    ]);
  });

  it('tells by checksum what a size does not, and never by two kinds of them', () => {
    const [md5, sha] = ['a'.repeat(32), 'b'.repeat(64)];
    expect(compareListings(listing(one('x', 1, md5)), listing(one('x', 1, 'c'.repeat(32)))).different).toMatchObject([
      { by: 'checksum' },
    ]);
    expect(compareListings(listing(one('x', 1, md5)), listing(one('x', 1, sha)))).toMatchObject({
      same: 1,
      by: ['size'],
    });
  });

  it('finds where each list begins, also where only one share of several is in one of them', () => {
    const files = (root: string, shares: readonly string[]): Listing =>
      listing(...shares.flatMap((share) => ['a', 'b', 'c/d'].map((path) => one(`${root}${share}/${path}`))));
    expect(
      compareListings(files('volume1/', ['maps', 'papers']), files('mnt/pool/data/', ['maps', 'papers'])),
    ).toMatchObject({
      same: 6,
      missing: [],
      extra: [],
    });
    const part = compareListings(files('volume1/', ['maps', 'papers']), files('pool/', ['maps']));
    expect([part.same, paths(part.missing)]).toEqual([3, ['papers/a', 'papers/b', 'papers/c/d']]);
    // Nothing in common is no guess: it says how little.
    expect(compareListings(files('a/', ['x']), files('b/', ['y'])).roots.share).toBeGreaterThan(0.9);
    expect(compareListings(listing(one('p/q')), listing(one('r/s'), one('t/u'))).roots.share).toBe(0);
  });

  it('is what sorting and comparing with the machine’s own commands gives, on any two lists', () => {
    const name = fc.constantFrom('a', 'b', 'c/d', 'c/e', 'c/f/g', 'h', 'i/j');
    fc.assert(
      fc.property(fc.uniqueArray(name), fc.uniqueArray(name), (left, right) => {
        // A file both have keeps the roots where they are.
        const [a, b] = [
          ['root', ...left],
          ['root', ...right],
        ];
        const seen: ListingsCompared = compareListings(
          listing(...a.map((path) => ({ path }))),
          listing(...b.map((path) => ({ path }))),
        );
        const folder = mkdtempSync(join(tmpdir(), 'shelf-comm-'));
        try {
          const sorted = (of: readonly string[]): string => `${[...of].sort().join('\n')}\n`;
          writeFileSync(join(folder, 'a'), sorted(a));
          writeFileSync(join(folder, 'b'), sorted(b));
          const comm = (which: string): string[] =>
            execFileSync('comm', [which, join(folder, 'a'), join(folder, 'b')], {
              encoding: 'utf8',
              env: { ...process.env, LC_ALL: 'C' },
            })
              .split('\n')
              .filter((line) => line !== '');
          expect(paths(seen.missing)).toEqual(comm('-23'));
          expect(paths(seen.extra)).toEqual(comm('-13'));
          expect(seen.same).toBe(comm('-12').length);
        } finally {
          rmSync(folder, { recursive: true });
        }
      }),
      { numRuns: 60 },
    );
  });
});
