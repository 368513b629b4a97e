import Link from '~/web/parts/frame/Link';
import { notFound } from 'next/navigation';
import { isRefusal } from '~/core/value/refusal';
import { readMove } from '~/service/move/moveOperations';
import { allProfiles } from '~/service/settings/profiles';
import { readUnitNames } from '~/service/units/readUnitNames';
import { findUnit } from '~/service/units/findUnit';
import { Notice } from '~/web/parts/form/Notice';
import { mayAct } from '~/service/access/viewer';
import { WAYS_TO_MOVE } from '~/schemas/moveRequest';
import { CarryBack } from '~/web/parts/plan/CarryBack';
import { BeginPlan } from '~/web/parts/plan/BeginPlan';
import { PlanAside } from '~/web/parts/plan/PlanAsk';
import { MoveTo, type FamilyToDescribe } from '~/web/parts/move/MoveTo';
import { OldDrive } from '~/web/parts/move/OldDrive';
import { ShareByShare } from '~/web/parts/move/ShareByShare';
import { WhatGoes } from '~/web/parts/move/WhatGoes';
import { WhoseAddress } from '~/web/parts/move/WhoseAddress';
import { WaysToMove } from '~/web/parts/move/WaysToMove';
import { ViewLinks } from '~/web/parts/frame/ViewLinks';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Move to another unit' };

export default insidePage('reader', async ({ app, viewer, params, query, now }) => {
  const unit = await findUnit(app, params['id']);
  if (isRefusal(unit)) notFound();
  const to = typeof query['to'] === 'string' ? query['to'] : '';
  const others = (await readUnitNames(app)).filter(({ id }) => id !== unit.id);
  const way = WAYS_TO_MOVE.find((one) => one === query['way']);
  const isCopied = way === 'copy' || way === 'assistant';
  const dataSets = way === 'copy' && query['only'] !== undefined ? [query['only']].flat() : undefined;
  // A part that goes leaves drives, name and address where they are.
  const addOld = isCopied && dataSets === undefined && query['old'] === 'added';
  const joins = isCopied && dataSets === undefined ? JOINS[String(query['address'])] : undefined;
  const families = [...(await allProfiles(app)).values()]
    // What carries on with the same family is what is mostly bought.
    .sort((a, b) => Number(b.id === unit.state.profile.id) - Number(a.id === unit.state.profile.id))
    .map((family) => ({ id: family.id, name: family.name, choices: family.bays.choices }));
  const described = to === '' ? describedIn(query, families) : null;
  const target = described ?? (to === '' ? null : to);
  const isAtNight = query['copies'] === 'at-night';
  const address = described ? `family=${described.profile}&bays=${String(described.bays)}` : `to=${to}`;
  const move =
    target === null
      ? null
      : await readMove(
          app,
          {
            from: unit.id,
            to: target,
            way,
            addOld,
            joins,
            dataSets,
            ...(isAtNight ? { hoursPerDay: NIGHT_HOURS } : {}),
          },
          now,
        );
  const tried = move && !isRefusal(move) ? move.tried : undefined;
  const newer = to === '' ? null : await findUnit(app, to);
  const isBare = newer !== null && !isRefusal(newer) && Object.keys(newer.state.pools).length === 0;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4 p-5 max-sm:p-4">
      <div>
        <h1 className="text-xl">Move {unit.state.name} to another unit</h1>
        <p className="max-w-[720px] text-muted">
          Which way it can go, why not the others, how long, and from where there is no way back. Touch no drive yet:
          the makers’ manuals of both come first, and a copy that was proven.
        </p>
      </div>
      {unit.state.packed && (
        <Notice grave title={`The drives of ${unit.state.name} are on the way to another unit`}>
          <p>Erase nothing, and fit them nowhere else. They go back into the bays they had.</p>
          <CarryBack of={unit} mayRecord={mayAct(viewer, 'keeper')} isReady />
        </Notice>
      )}
      <MoveTo id={unit.id} others={others} families={families} to={to} described={described} />
      {to === '' && (
        <p>
          {described
            ? 'Once it is bought: '
            : others.length === 0
              ? 'No other unit is on the shelf. '
              : 'Is it there? '}
          <Link
            href={described ? `/units/new?family=${described.profile}&bays=${String(described.bays)}` : '/units/new'}
            className="text-action underline"
          >
            {described ? 'register it' : 'Register the newer one'}
          </Link>
          , in its box or unpacked; then the plan is made for both.
        </p>
      )}
      {move && !isRefusal(move) && !tried && move.ways.some(({ takes }) => takes) && (
        <ViewLinks
          label="When it may copy"
          links={[
            { href: `/units/${unit.id}/move?${address}`, words: 'Copies day and night', isHere: !isAtNight },
            {
              href: `/units/${unit.id}/move?${address}&copies=at-night`,
              words: `At night only, ${String(NIGHT_HOURS)} hours`,
              isHere: isAtNight,
            },
          ]}
        />
      )}
      {move && isRefusal(move) && <Notice grave>{move.sentence}</Notice>}
      {move && !isRefusal(move) && !tried && to !== '' && move.parts && move.parts.length > 1 && (
        <p>
          Copied, it may be only a part of it, and the rest stays:{' '}
          <Link
            href={`/units/${unit.id}/move?to=${to}&way=copy&only=${encodeURIComponent(move.parts[0]?.id ?? '')}`}
            className="text-action underline"
          >
            choose what goes
          </Link>
        </p>
      )}
      {move && !isRefusal(move) && !tried && move.ways.some(({ takes }) => takes) && (
        <ShareByShare from={move.media[0]} to={move.media[1]} />
      )}
      {move && !isRefusal(move) && (
        <div className={tried ? 'grid items-start gap-4 lg:grid-cols-2' : 'grid'}>
          <WaysToMove
            ways={move.ways}
            chosen={described ? undefined : way}
            commissionAt={isBare ? `/units/${to}/commission` : undefined}
            {...(described ? {} : { hrefOf: (one) => `/units/${unit.id}/move?to=${to}&way=${one}` })}
          />
          {tried && way && (
            <div className="grid grid-cols-[minmax(0,1fr)] gap-3 max-lg:order-first" data-move-plan={way}>
              {way === 'copy' && move.parts && move.parts.length > 1 && (
                <WhatGoes
                  address={`/units/${unit.id}/move?to=${to}&way=copy`}
                  parts={move.parts}
                  chosen={dataSets ?? move.parts.map((part) => part.id)}
                  old={unit.state.name}
                />
              )}
              {isCopied && dataSets === undefined && (
                <>
                  <WhoseAddress
                    address={`/units/${unit.id}/move?to=${to}&way=${way}${addOld ? '&old=added' : ''}`}
                    joins={move.joins === true}
                    old={unit.state.name}
                    newer={others.find(({ id }) => id === to)?.name ?? ''}
                  />
                  <OldDrive
                    address={`/units/${unit.id}/move?to=${to}&way=${way}${joins === undefined ? '' : `&address=${String(query['address'])}`}`}
                    isAdded={addOld}
                    whyNot={move.oldStays}
                  />
                </>
              )}
              {mayAct(viewer, 'keeper') && (
                <BeginPlan
                  id={unit.id}
                  version={unit.version}
                  job="move"
                  wish={{
                    to,
                    way,
                    ...(addOld ? { addOld } : {}),
                    ...(joins === undefined ? {} : { joins }),
                    ...(dataSets === undefined ? {} : { dataSets }),
                  }}
                  isReady={!isRefusal(tried)}
                  words="Begin the move"
                />
              )}
              <PlanAside
                unit={unit.id}
                tried={isRefusal(tried) ? { ...tried, kind: 'refused' } : { kind: 'tried', ...tried }}
              />
            </div>
          )}
        </div>
      )}
    </div>
  );
});

/** Whether the newer one keeps its name and address, as the page's own address says it. */
const JOINS: Readonly<Record<string, boolean>> = { kept: true, 'taken-over': false };

/** From eight in the evening to six (common practice). */
const NIGHT_HOURS = 10;

/** The unit that is described in the address, where it is one there can be. */
function describedIn(
  query: Readonly<Record<string, unknown>>,
  families: readonly FamilyToDescribe[],
): { readonly profile: string; readonly bays: number } | null {
  const family = families.find(({ id }) => id === query['family']);
  const bays = Number(query['bays']);
  return family?.choices.includes(bays) ? { profile: family.id, bays } : null;
}
