import { labelBytes } from '../drive/labelBytes';
import { planLayout, type PlannedDrive } from '../layout/planLayout';
import type { Layout } from '../layout/layout';
import { formatBytes } from '../quantity/formatBytes';
import type { Profile } from '../platform/profile';

/** One way on from a layout: what to do, and what it gives. */
export interface GrowthStep {
  readonly kind: 'growth-step';
  readonly what: string;
  readonly usableBytes: number;
  readonly gainedBytes: number;
  /** Drives to buy for it. */
  readonly drives: number;
}

const STEPS = 3;
/** Label sizes drives are sold in, GB (common practice). */
const SIZES = [1000, 2000, 3000, 4000, 6000, 8000, 10000, 12000, 14000, 16000, 18000, 20000, 22000, 24000, 28000, 32000, 36000];

/**
 * The next three steps a layout can grow by under this profile: free bays first (a drive, or a whole group where the
 * family grows by groups), then swaps for larger drives, one at a time where that already helps and all of a kind where
 * nothing grows before the last. Planned from scratch after each step.
 */
export function nextSteps(profile: Profile, layout: Layout, drives: readonly PlannedDrive[], bays: number): GrowthStep[] {
  const steps: GrowthStep[] = [];
  let current = [...drives];
  let usable = layout.usableBytes;
  const spares = layout.spareBays.length;
  const plan = (next: readonly PlannedDrive[]): Layout => planLayout(profile, layout.scheme, next, spares, layout.groupWidth);
  for (let i = 0; i < STEPS; i++) {
    const step = added(profile, layout, current, bays, plan, usable) ?? swapped(current, plan, usable);
    if (!step) break;
    steps.push(Object.freeze({ kind: 'growth-step', what: step.what, usableBytes: step.usable, gainedBytes: step.usable - usable, drives: step.drives }));
    current = step.next;
    usable = step.usable;
  }
  return steps;
}

interface Step {
  readonly what: string;
  readonly usable: number;
  readonly next: PlannedDrive[];
  readonly drives: number;
}

function added(
  profile: Profile,
  { groupWidth }: Layout,
  drives: readonly PlannedDrive[],
  bays: number,
  plan: (next: readonly PlannedDrive[]) => Layout,
  usable: number,
): Step | null {
  const { addDrives } = profile.growth;
  if (addDrives === 'none') return null;
  const largest = Math.max(...drives.map(({ bytes }) => bytes));
  const free = bays - drives.length;
  // A drive at a time where that makes a layout; pairs and groups come whole.
  const counts = groupWidth !== undefined ? [groupWidth] : addDrives === 'single' ? [1, 2] : [];
  for (const count of counts.filter((wanted) => wanted <= free)) {
    const next = [
      ...drives,
      ...Array.from({ length: count }, (_, i) => ({ ...(drives[0] as PlannedDrive), bay: `new ${String(drives.length + i + 1)}`, bytes: largest })),
    ];
    const layout = plan(next);
    if (layout.legal && layout.usableBytes > usable) {
      const what =
        count === 1
          ? `Add one ${formatBytes(largest)} drive in a free bay`
          : `Add ${String(count)} drives of ${formatBytes(largest)}${groupWidth === undefined ? '' : ', a whole group'}`;
      return { what, usable: layout.usableBytes, next, drives: count };
    }
  }
  return null;
}

function swapped(drives: readonly PlannedDrive[], plan: (next: readonly PlannedDrive[]) => Layout, usable: number): Step | null {
  const sorted = [...drives].sort((a, b) => a.bytes - b.bytes);
  const [smallest, largest] = [sorted[0]?.bytes ?? 0, sorted.at(-1)?.bytes ?? 0];
  const target = smallest < largest ? largest : SIZES.map(labelBytes).find((bytes) => bytes > largest * 1.2);
  if (target === undefined) return null;
  for (let count = 1; count <= sorted.length; count++) {
    if ((sorted[count - 1] as PlannedDrive).bytes >= target) return null;
    const chosen = new Set(sorted.slice(0, count).map(({ bay }) => bay));
    const next = drives.map((drive) => (chosen.has(drive.bay) ? { ...drive, bytes: target } : drive));
    const layout = plan(next);
    if (!layout.legal || layout.usableBytes <= usable) continue;
    const what =
      count === 1
        ? `Swap bay ${[...chosen][0] ?? ''} (${formatBytes(smallest)}) for ${formatBytes(target)}`
        : `Swap ${String(count)} drives for ${formatBytes(target)}, one at a time; nothing grows before the last`;
    return { what, usable: layout.usableBytes, next, drives: count };
  }
  return null;
}
