import Link from '~/web/parts/frame/Link';
import type { ReactNode } from 'react';
import type { Cause } from '~/core/upkeep/causes';
import type { NeedCode, NeedForHands } from '~/core/upkeep/need';
import type { Standing } from '~/core/unit/margin';
import { ButtonLink } from '~/web/parts/form/Button';
import type { Message } from '~/service/upkeep/messages';
import { SeenBy } from '~/web/parts/messages/SeenBy';
import { severityOf } from '~/core/tell/severity';
import type { SeenCause } from '~/service/units/readShelf';
import { Moment } from '~/web/parts/unit/Moment';
import { StandingMark } from '~/web/parts/unit/StandingMark';
import { Sentence } from '~/web/parts/frame/Sentence';

/** Everything not named here is a sign to watch. */
export const MARKS: Partial<Record<NeedCode, Standing>> = {
  'data-lost': 'lost',
  'pool-stopped': 'stopped',
  'enclosure-away': 'thinned',
  'on-the-way': 'thinned',
  'member-failed': 'thinned',
  'no-margin': 'thinned',
  'unit-wrote-failure': 'thinned',
  'copy-failed': 'thinned',
  'no-copy': 'thinned',
  'restore-failed': 'thinned',
};

/** The way that settles a need: where it leads, and what the button says. */
export function wayOf({ code, unit, plan, serial }: NeedForHands): { readonly href: string; readonly words: string } {
  const page = `/units/${unit}`;
  switch (code) {
    case 'plan-open':
      return { href: `${page}/plans/${plan ?? ''}`, words: 'Go on with the plan' };
    case 'sign-open':
      return { href: `${page}/lamps`, words: 'Look up what it means' };
    case 'drives-unseen':
    case 'enclosure-away':
      return { href: `${page}/report`, words: 'Compare with its page' };
    case 'no-copy':
    case 'copy-failed':
    case 'copy-old':
    case 'only-mirrors':
    case 'none-off-site':
    case 'never-restored':
    case 'restore-failed':
    case 'copy-target-full':
      return { href: `${page}?view=copies`, words: 'See its copies' };
    case 'upkeep-due':
    case 'firmware-old':
    case 'factory-password':
    case 'alarm-mail':
      return { href: `${page}?view=upkeep`, words: 'See its upkeep' };
    case 'no-spare':
      return { href: `/upkeep?view=spares&unit=${unit}`, words: 'See what would fit' };
    case 'warranty-ending':
    case 'drive-old':
      return { href: page, words: 'Look at its drives' };
    case 'unit-wrote':
    case 'unit-wrote-failure':
      return { href: `/messages?view=letters`, words: 'Read its mail' };
    case 'unit-says-otherwise':
    case 'watch-silent':
      return { href: `${page}?view=watch`, words: code === 'watch-silent' ? 'See why' : 'See what it says' };
    case 'slow':
    case 'no-baseline':
      return { href: `${page}?view=about`, words: 'See its figures' };
    case 'on-the-way':
      return { href: `${page}/move`, words: 'Carry them back' };
    case 'data-lost':
    case 'pool-stopped':
      return { href: `${page}/rescue`, words: 'Open the rescue desk' };
    case 'cache-unsafe':
    case 'cache-worn':
      return { href: `${page}/cache`, words: 'Plan the renewal of its cache' };
    case 'member-failed':
    case 'sign-growing':
    case 'wears-out':
    case 'wear-together':
      if (plan !== undefined) return { href: `${page}/plans/${plan}`, words: 'Go on with the plan' };
      return { href: `${page}/replace?serial=${encodeURIComponent(serial ?? '')}`, words: 'Plan its replacement' };
    case 'no-margin':
    case 'part-lost':
    case 'thin-overcommitted':
      return { href: page, words: 'Look at the unit' };
    case 'near-full':
      return { href: `${page}?view=growing`, words: 'See what to buy, and when' };
  }
}

interface Props {
  readonly causes: readonly Cause[];
  /** Who looks after which of them, by `unit root`. */
  readonly seen: Readonly<Record<string, SeenCause>>;
  readonly maySay: boolean;
  readonly isAnybodyTold: boolean;
  readonly silentSince: string | null;
  /** How much needs hands in all. */
  readonly total: number;
  /** As many are shown at first. */
  readonly most: number;
  readonly messages: readonly Message[];
}

/** What needs a person, one row a cause, most urgent first, each with its reason and the way to it. */
export function NeedsHands({
  causes,
  seen,
  maySay,
  isAnybodyTold,
  silentSince,
  total,
  most,
  messages,
}: Props): ReactNode {
  return (
    <aside
      aria-label="Needs hands"
      className="relative w-full shrink-0 border-line bg-surface p-4 max-lg:border-b lg:w-[312px] lg:overflow-y-auto lg:border-l"
    >
      <h2 className="flex justify-between text-lg">
        Needs hands <span className="font-normal text-muted">{total}</span>
      </h2>
      {silentSince !== null && (
        <p className="mt-2 font-semibold text-thinned">
          The watch itself is silent since <Moment at={silentSince} />: no unit is listened to, and nobody is told. See
          the log of the worker.
        </p>
      )}
      {causes.length === 0 && (
        <p className="mt-2 text-muted">
          Nothing does. Every member is well, copies are fresh, and no pool is past the line people plan to.
        </p>
      )}
      <ul>
        {causes.slice(0, most).map(({ unit, root, first, others }) => (
          <li key={`${unit} ${root}`} className="border-b border-line py-3 last:border-0">
            <NeedRow need={first} seen={seen[`${unit} ${root}`]} maySay={maySay && severityOf(first.code) !== 'care'} />
            {others.length > 0 && (
              <details className="mt-1">
                <summary className="min-h-9 cursor-pointer py-1.5 text-action max-sm:min-h-11">
                  and {others.length} more of it
                </summary>
                <ul className="border-l-2 border-line pl-3">
                  {others.map((need) => (
                    <li key={need.code + need.title + need.reason} className="py-2">
                      <NeedRow need={need} />
                    </li>
                  ))}
                </ul>
              </details>
            )}
          </li>
        ))}
      </ul>
      {total > causes.slice(0, most).reduce((sum, { others }) => sum + 1 + others.length, 0) && (
        <p className="pt-3">
          <Link href="/?needs=all" className="inline-flex min-h-9 items-center text-action underline max-sm:min-h-11">
            Show all {total}
          </Link>
        </p>
      )}
      <p className="pt-3 text-sm">
        {!isAnybodyTold && <span className="font-semibold">Nobody is told when nobody looks here. </span>}
        <Link href="/messages" className="inline-flex min-h-9 items-center text-action underline max-sm:min-h-11">
          Who is told
        </Link>
      </p>
      {messages.length > 0 && (
        <section aria-label="Lately" className="mt-3 border-t border-line pt-3">
          <h2 className="text-lg">Lately</h2>
          <ul>
            {messages.map(({ id, unit, sentence, madeAt }) => (
              <li key={id} className="py-1">
                <Link href={`/units/${unit}`} className="underline decoration-line">
                  <Sentence of={sentence} />
                </Link>{' '}
                <span className="text-sm text-muted">
                  <Moment at={madeAt} relative />
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
    </aside>
  );
}

function NeedRow({
  need,
  seen,
  maySay = false,
}: {
  readonly need: NeedForHands;
  readonly seen?: SeenCause | undefined;
  readonly maySay?: boolean;
}): ReactNode {
  const { href, words } = wayOf(need);
  return (
    <>
      <h3>
        <StandingMark standing={MARKS[need.code] ?? 'watch'}>
          <Sentence of={need.title} />
        </StandingMark>
      </h3>
      <p className="mt-1 mb-2">{need.reason}</p>
      <div className="flex flex-wrap items-center gap-2">
        <ButtonLink href={href}>{words}</ButtonLink>
        {seen && (maySay || seen.seenAt !== null) && <SeenBy cause={seen} title={need.title} maySay={maySay} />}
      </div>
    </>
  );
}
