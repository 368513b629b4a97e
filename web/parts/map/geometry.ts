import type { Band } from '~/core/layout/band';
import type { UnusedStretch } from '~/core/layout/layout';

/** What the map draws: drives by name, bands over them, what is unused. Bays on the bench, serials on a unit's page. */
export interface MapInput {
  readonly columns: readonly {
    readonly name: string;
    /** A few characters, for columns too narrow for more. */
    readonly short: string;
    readonly title: string;
    readonly under: string;
    readonly bytes: number;
    readonly state?: 'missing' | 'spare';
  }[];
  readonly bands: readonly Band[];
  readonly unused: readonly Pick<UnusedStretch, 'bay' | 'fromBytes' | 'toBytes' | 'why'>[];
}

export interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

export interface Geometry {
  readonly columns: readonly (Box & { readonly name: string })[];
  /** For each band, one box a member: its tint, and the part of it that is protection. */
  readonly bands: readonly (readonly { readonly box: Box; readonly protection: Box | null }[])[];
  readonly ticks: readonly { readonly bytes: number; readonly y: number }[];
}

/** Places everything in a drawing of the given size; heights are to scale, bytes to pixels. */
export function placeMap({ columns, bands }: MapInput, width: number, height: number): Geometry {
  const most = Math.max(1, ...columns.map(({ bytes }) => bytes));
  const gap = columns.length > 16 ? 2 : 6;
  const step = Math.min(72, width / Math.max(1, columns.length));
  const y = (bytes: number): number => height - (bytes / most) * height;
  const boxes = new Map(
    columns.map(({ name, bytes }, i) => [
      name,
      { name, x: i * step, y: y(bytes), width: Math.max(1, step - gap), height: height - y(bytes) },
    ]),
  );
  return {
    columns: [...boxes.values()],
    bands: bands.map((band) =>
      band.members.flatMap((member, i) => {
        const column = boxes.get(member);
        if (!column) return [];
        const box: Box = {
          x: column.x,
          width: column.width,
          y: y(band.toBytes),
          height: y(band.fromBytes) - y(band.toBytes),
        };
        return [{ box, protection: protectionBox(band, i, box) }];
      }),
    ),
    ticks: ticksUpTo(most).map((bytes) => ({ bytes, y: y(bytes) })),
  };
}

/** Parity is spread over all members, a step lower on each; copies fill all but the first; parity drives are all of it. */
function protectionBox({ kind, members, redundancy }: Band, index: number, box: Box): Box | null {
  if (redundancy === 0) return null;
  if (kind === 'mirror') return index === 0 ? null : box;
  if (kind === 'dedicated') return index < redundancy ? box : null;
  const share = (box.height * redundancy) / members.length;
  const top = members.length === 1 ? 0 : ((box.height - share) * index) / (members.length - 1);
  return { ...box, y: box.y + top, height: share };
}

/** Four to seven round heights. */
function ticksUpTo(most: number): number[] {
  const rough = most / 5;
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = ([1, 2, 5, 10].find((factor) => factor * power >= rough) ?? 10) * power;
  return Array.from({ length: Math.floor(most / step + 1e-9) + 1 }, (_, i) => i * step);
}
