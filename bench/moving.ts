/**
 * Two lists of a million files held against each other, beside sorting and joining the same lists with the machine's own
 * commands; and how long the plan to move one unit of 24 bays to another takes to make and to try.
 *
 * Run: npm run bench:moving [files]
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { compareListings } from '../core/listing/compareListings';
import { readListing } from '../core/listing/readListing';
import { planLayout } from '../core/layout/planLayout';
import { dryRunOver } from '../core/plan/engine/dryRun';
import { actingOn } from '../core/plan/makers/makePlan';
import { movePlan } from '../core/plan/makers/move/move';
import type { Profile } from '../core/platform/profile';
import { apply } from '../core/unit/apply';
import type { UnitEvent } from '../core/unit/event';
import { poolCreated } from '../core/unit/poolCreated';
import type { UnitState } from '../core/unit/state';
import { isRefusal, type Refusal } from '../core/value/refusal';

const FILES = Number(process.argv[2] ?? 1_000_000);
const RUNS = 3;
const timed = <T>(work: () => T): [number, T] => {
  const began = performance.now();
  const made = work();
  return [performance.now() - began, made];
};
const best = (of: readonly number[]): number => Math.min(...of);

const folder = mkdtempSync(join(tmpdir(), 'bench-lists-'));
try {
  const lines = (drop: number): string => {
    const all: string[] = [];
    for (let i = 0; i < FILES; i++)
      if (i % drop !== 7)
        all.push(
          `${(i * 2654435761).toString(16).padStart(64, '0')}  share${String(i % 9)}/folder ${String(i % 4001)}/picture ${String(i)}.tif`,
        );
    return `${all.join('\n')}\n`;
  };
  const [left, right] = [lines(10 ** 9), lines(100_003)];
  writeFileSync(join(folder, 'left'), left);
  writeFileSync(join(folder, 'right'), right);
  // By path, with what differs and what either has not: bytes, not the order of a language.
  const script = [
    `cd '${folder}'`,
    "tab=$(printf '\\t')",
    'sed "s/  /$tab/" left | sort -t "$tab" -k2 > l',
    'sed "s/  /$tab/" right | sort -t "$tab" -k2 > r',
    'join -t "$tab" -1 2 -2 2 -a 1 -a 2 -e - -o 0,1.1,2.1 l r | awk -F "$tab" \'$2 != $3\' | wc -l',
  ].join(' && ');
  const [mine, theirs]: [number[], number[]] = [[], []];
  let missing = 0;
  let joined = '';
  for (let run = 0; run < RUNS; run++) {
    const [ms, seen] = timed(() => compareListings(readListing(left), readListing(right)));
    mine.push(ms);
    missing = seen.missing.length;
    const [other, out] = timed(() =>
      execFileSync('/bin/sh', ['-c', script], {
        encoding: 'utf8',
        env: { ...process.env, LC_ALL: 'C' },
      }),
    );
    theirs.push(other);
    joined = out.trim();
  }
  console.log(`${String(FILES)} files a list: ${(best(mine) / 1000).toFixed(2)} s, ${String(missing)} missing`);
  console.log(`sort, sort and join: ${(best(theirs) / 1000).toFixed(2)} s (${joined} that differ)`);
  console.log(`ratio: ${(best(mine) / best(theirs)).toFixed(2)}`);
} finally {
  rmSync(folder, { recursive: true });
}

const must = <T extends object>(made: T | Refusal): T => {
  if (isRefusal(made)) throw new Error(made.sentence);
  return made;
};
const tidemill = JSON.parse(readFileSync('core/platform/profiles/tidemill.json', 'utf8')) as Profile;
const NOW = '2026-01-01T00:00:00.000Z';
function unitOf(name: string, count: number): UnitState {
  const drives = Array.from({ length: count }, (_, i) => ({ bay: String(i + 1), bytes: 8e12 }));
  const serials = new Map(drives.map(({ bay }) => [bay, `D-${bay}`]));
  const events: UnitEvent[] = [
    {
      kind: 'unit-registered',
      name,
      place: { site: 'S', room: 'R' },
      profile: tidemill,
      enclosures: [{ name: 'Head', bays: Array.from({ length: 24 }, (_, i) => String(i + 1)) }],
    },
    ...drives.map(({ bay, bytes }): UnitEvent => ({
      kind: 'drive-inserted',
      bay,
      drive: { serial: `D-${bay}`, bytes, basis: 'exact' },
    })),
    ...(count === 0 ? [] : [must(poolCreated(planLayout(tidemill, 'dedicated-2', drives, 0), 'p', 'Papers', serials))]),
  ];
  return events.reduce<UnitState | null>((unit, event) => must(apply(unit, event, NOW)), null) as UnitState;
}
const [old, newer] = [unitOf('Old', 24), unitOf('Newer', 0)];
const make = () =>
  must(movePlan(old, { to: 'b', way: 'carry-by-serial', around: { from: 'a', target: newer, used: {} } }));
make();
const made = Array.from({ length: 20 }, () => timed(make)[0]);
const tried = Array.from(
  { length: 20 },
  () => timed(() => dryRunOver({ a: old, b: newer }, actingOn(make(), 'a'), NOW))[0],
);
const median = (of: number[]): number => [...of].sort((a, b) => a - b)[Math.floor(of.length / 2)] as number;
console.log(
  `the plan over two units of 24 bays: made in ${median(made).toFixed(1)} ms, made and tried in ${median(tried).toFixed(1)} ms`,
);
