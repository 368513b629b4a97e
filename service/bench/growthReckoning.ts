import type { FromSchema } from 'json-schema-to-ts';
import { growingOf } from '../../core/growth/growing';
import { growthWished, type GrowthWish } from '../../core/growth/wish';
import type { Profile } from '../../core/platform/profile';
import { drivesByName, membersOnly, poolOfLayout } from '../../core/pool/ofLayout';
import { enclosuresOf } from '../../core/unit/enclosures';
import { isRefusal } from '../../core/value/refusal';
import type { growthRequestSchema } from '../../schemas/growthRequest';
import { layoutAsked } from './reckoning';

type Asked = Omit<FromSchema<typeof growthRequestSchema>, 'newUnit'> & Pick<GrowthWish, 'newUnit'>;

/** The cheapest way to stay below the line, beside the cheapest of each other kind. */
export function growthOf(body: Asked, profile: Profile) {
  const asked = layoutAsked(body, profile);
  if (isRefusal(asked)) return asked;
  const { layout, drives } = asked;
  const taken = new Set(drives.map(({ bay }) => bay));
  const free = enclosuresOf(profile, body.bays, [...taken])
    .flatMap(({ bays }) => bays)
    .filter((bay) => !taken.has(bay));
  return growthWished(
    body,
    growingOf(profile, poolOfLayout(layout), drivesByName(membersOnly(layout, drives)), free),
    body.usedBytes,
  );
}
