import type { FromSchema } from 'json-schema-to-ts';
import type { Media } from '../../core/drive/media';
import type { Profile } from '../../core/platform/profile';
import { neededHeight } from '../../core/pool/neededHeight';
import { tooSmallWords } from '../../core/drive/tooSmall';
import { estimateRebuild, type RebuildDrive } from '../../core/rebuild/estimateRebuild';
import { liveEstimate } from '../../core/rebuild/liveEstimate';
import { workShapes } from '../../core/rebuild/workShapes';
import { copyInPasses } from '../../core/transfer/copyInPasses';
import { sharesTime } from '../../core/transfer/sharesTime';
import { fileSeconds, oneDrive, overEthernet, transferTime, type Passage } from '../../core/transfer/transferTime';
import { isRefusal, refusal } from '../../core/value/refusal';
import type { rebuildEstimateSchema, transferEstimateSchema, transferSharesSchema } from '../../schemas/timeRequest';
import { layoutAsked } from './reckoning';

type Asked = FromSchema<typeof rebuildEstimateSchema> & {
  /** The time zone people work in. */
  readonly zone?: string;
};

/** How long one member of a layout takes to be written anew; and when it is done, where it is under way and was heard of. */
export function rebuildOf(body: Asked, profile: Profile) {
  const asked = layoutAsked(body, profile);
  if (isRefusal(asked)) return asked;
  const { layout, drives } = asked;
  const needs = neededHeight(layout.bands, body.member);
  if (needs === 0) return refusal('not-a-member', `No member of this layout stands in bay ${body.member}.`, '/member');
  if (!layout.bands.some(({ redundancy, members }) => redundancy > 0 && members.includes(body.member)))
    return refusal('unguarded', 'Nothing is rebuilt here: it has no redundancy.', '/scheme');
  if (body.onto && body.onto.bytes < needs)
    return refusal('drive-too-small', tooSmallWords('That drive', body.onto.bytes, needs), '/onto/bytes');
  const known = new Map(
    drives.map(({ bay, bytes, media = 'hard-disk' }): [string, RebuildDrive] => [
      bay,
      { bay, bytes: bay === body.member ? Math.max(bytes, body.onto?.bytes ?? 0) : bytes, media },
    ]),
  );
  const { low, likely, high, writtenBytes, readBytes } = estimateRebuild(
    layout.bands,
    known,
    body.member,
    profile.rebuild,
    body.usedShare ?? 1,
  );
  const { zone } = body;
  const expected = {
    likely,
    countsEachBand: profile.rebuild.counts === 'each-band',
    ...(zone === undefined ? {} : { zone }),
  };
  const live = liveOf(body, expected, () => workShapes(layout.bands, known, profile.rebuild, body.member));
  return isRefusal(live) ? live : { low, likely, high, writtenBytes, readBytes, live };
}

/** The span the screens show of a running job, from the same reports; a new beginning is a report of nothing done. */
function liveOf(
  { startedAt, reports = [], restarts = [] }: Asked,
  expected: Parameters<typeof liveEstimate>[3],
  shapes: () => Parameters<typeof liveEstimate>[0],
) {
  if (startedAt === undefined)
    return reports.length + restarts.length > 0
      ? refusal('not-started', 'Say when it began: reports are counted from there.', '/startedAt')
      : null;
  const began = new Date(startedAt).toISOString();
  const heard = [...reports, ...restarts.map((at) => ({ at, percent: 0 }))]
    .map((report) => ({ ...report, at: new Date(report.at).toISOString() }))
    .sort((a, b) => (a.at < b.at ? -1 : Number(a.at > b.at)));
  const early = reports.findIndex(({ at }) => new Date(at).toISOString() < began);
  if (early >= 0) return refusal('out-of-order', 'That is before it began.', `/reports/${String(early)}/at`);
  const latest = restarts.map((at) => new Date(at).toISOString()).reduce((a, b) => (a > b ? a : b), began);
  const { progress, low, likely, high, found } = liveEstimate(shapes(), latest, heard, expected);
  return { progress, low, likely, high, found };
}

interface Way {
  readonly linkGigabits: number;
  readonly source?: Media | undefined;
  readonly target?: Media | undefined;
}

/** What is passed through, as far as it was said. */
function passagesOf({ linkGigabits, source, target }: Way): readonly Passage[] {
  return [
    ...(source === undefined ? [] : [oneDrive('source', source)]),
    overEthernet(linkGigabits),
    ...(target === undefined ? [] : [oneDrive('target', target)]),
  ];
}

/** How long several shares take, one after the other and side by side. */
export function transferSharesOf({ shares, streams = 2, ...way }: FromSchema<typeof transferSharesSchema>) {
  const media = [way.source ?? 'hard-disk', way.target ?? 'hard-disk'] as const;
  const { kind: _kind, ...time } = sharesTime(shares, passagesOf(way), media, streams);
  return time;
}

/** How long files take from one place to another. */
export function transferOf({
  bytes,
  files,
  linkGigabits,
  source,
  target,
  changedBytesPerDay,
  hoursPerDay,
}: FromSchema<typeof transferEstimateSchema>) {
  if (hoursPerDay !== undefined && changedBytesPerDay === undefined)
    return refusal(
      'no-change',
      'Hours a day are of a copy in passes: say how much changes in a day.',
      '/changedBytesPerDay',
    );
  const passages = passagesOf({ linkGigabits, source, target });
  const { low, likely, high, bottleneck, parts } = transferTime(
    bytes,
    files,
    passages,
    fileSeconds([source ?? 'hard-disk', target ?? 'hard-disk']),
  );
  if (changedBytesPerDay === undefined) return { low, likely, high, bottleneck };
  const copy = copyInPasses({ bytes, files, changedBytesPerDay, hoursPerDay: hoursPerDay ?? 24 }, parts);
  if (!copy)
    return refusal(
      'never-caught-up',
      'More changes in a day than is copied in it: it never catches up. Stop the work on it, or copy on a faster way.',
      '/changedBytesPerDay',
    );
  const { passes, days, offSeconds } = copy;
  return { low, likely, high, bottleneck, passes, days, offSeconds };
}
