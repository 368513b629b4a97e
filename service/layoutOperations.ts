import type { FromSchema } from 'json-schema-to-ts';
import { readSize } from '../core/drive/readSize';
import { compareLayouts, type PlannedDrive } from '../core/layout/planLayout';
import { SCHEMES } from '../core/layout/scheme';
import { formatBytes } from '../core/quantity/formatBytes';
import { MOST_BYTES } from '../core/quantity/bytes';
import type { Profile } from '../core/platform/profile';
import { isRefusal, refusal, type Refusal } from '../core/value/refusal';
import { layoutAnswerSchema, layoutRequestSchema } from '../schemas/layoutRequest';
import type { App } from './app';
import { operation, operationTaking } from './operation';

/** A profile by its id, or the whole one that was sent along. */
export function profileOf(app: App, asked: string | Profile): Profile | Refusal {
  if (typeof asked !== 'string') return asked;
  return app.profiles.get(asked) ?? refusal('profile-unknown', `There is no profile "${asked}". Known: ${[...app.profiles.keys()].join(', ')}.`, '/profile');
}

/** Checks that bays are distinct and few enough, and that all sizes together can be counted. */
export function whyDrivesDoNotFit(drives: readonly PlannedDrive[], bays: number): Refusal | undefined {
  const seen = new Map<string, number>();
  for (const [i, { bay }] of drives.entries()) {
    if (seen.has(bay)) return refusal('bay-twice', `Bay ${bay} is there twice.`, `/drives/${String(i)}/bay`);
    seen.set(bay, i);
  }
  if (drives.length > bays) return refusal('too-many-drives', `${String(drives.length)} drives do not fit ${String(bays)} bays.`, '/drives');
  const total = drives.reduce((sum, { bytes }) => sum + bytes, 0);
  if (total > MOST_BYTES)
    return refusal('too-large', `All drives together hold ${formatBytes(total)}; at most ${formatBytes(MOST_BYTES)} are counted to the byte.`, '/drives');
  return undefined;
}

const planLayouts = operationTaking<FromSchema<typeof layoutRequestSchema>>(layoutRequestSchema, {
  method: 'POST',
  path: '/layouts',
  summary: 'Every layout these drives could become',
  needs: 'reader',
  scope: 'read',
  answer: layoutAnswerSchema,
  run: ({ app, body }) => {
    const profile = profileOf(app, body.profile as string | Profile);
    if (isRefusal(profile)) return Promise.resolve(profile);
    const drives: PlannedDrive[] = [];
    for (const [i, { bay, bytes, label }] of body.drives.entries()) {
      const size = bytes === undefined ? readSize(label as string) : { bytes };
      if (isRefusal(size)) return Promise.resolve(refusal(size.code, size.sentence, `/drives/${String(i)}/label`));
      drives.push({ bay, bytes: size.bytes });
    }
    const wrong = whyDrivesDoNotFit(drives, body.bays ?? drives.length);
    if (wrong) return Promise.resolve(wrong);
    const layouts = compareLayouts(profile, body.schemes ?? SCHEMES, drives, body.spares ?? 0, body.groupWidth);
    return Promise.resolve({ layouts: layouts.map(({ kind: _kind, unused: _unused, ...layout }) => layout) });
  },
});

const listProfiles = operation({
  method: 'GET',
  path: '/profiles',
  summary: 'The platform profiles known here',
  needs: 'reader',
  scope: 'read',
  run: ({ app }) => Promise.resolve({ profiles: [...app.profiles.values()] }),
});

export const layouts = [planLayouts, listProfiles];
