import type { ReactNode } from 'react';
import type { GrowthStep } from '~/core/growth/nextSteps';
import { factsOf } from '~/core/layout/scheme';
import type { conversionsOf } from '~/core/pool/converted';
import { formatBytes } from '~/core/quantity/formatBytes';
import type { Profile } from '~/core/platform/profile';
import type { SharedCause } from '~/core/survival/sharedCauses';

interface Props {
  readonly becomes: ReturnType<typeof conversionsOf>;
  readonly steps: readonly GrowthStep[];
  readonly causes: readonly SharedCause[];
  readonly profile: Profile;
}

/** What comes later: how it grows, what it can become, and what one cable or supply would take down. */
export function LaterTab({ becomes, steps, causes, profile }: Props): ReactNode {
  return (
    <div className="grid gap-4">
      <section>
        <h3 className="mb-1">The next steps to grow</h3>
        {steps.length === 0 ? (
          <p className="text-muted">It does not grow under this family, short of starting over.</p>
        ) : (
          <ol className="list-decimal pl-5">
            {steps.map(({ what, gainedBytes, usableBytes }) => (
              <li key={what} className="py-0.5">
                {what}: <strong>+{formatBytes(gainedBytes)}</strong>, then {formatBytes(usableBytes)}
              </li>
            ))}
          </ol>
        )}
        {profile.growth.expand === 'by-command' && steps.length > 0 && (
          <p className="mt-1 text-sm text-muted">
            In this family the space appears only after an expand command; until then it simply is not there.
          </p>
        )}
      </section>
      <section>
        <h3 className="mb-1">What it can become</h3>
        {becomes.possible.length === 0 && becomes.not.length === 0 && (
          <p className="text-muted">Nothing else, without erasing: this family does not convert it.</p>
        )}
        <ul>
          {becomes.possible.map(({ to, keepsData, usableBytes, mostDataBytes, addedDrives }) => (
            <li key={to}>
              {factsOf(to).name}
              {addedDrives > 0 && `, with ${String(addedDrives)} more ${addedDrives === 1 ? 'drive' : 'drives'}`}:{' '}
              {formatBytes(usableBytes)} usable;{' '}
              {keepsData ? (
                `keeps the data where it is no more than ${formatBytes(mostDataBytes)}; back up first, always`
              ) : (
                <strong className="text-thinned">erases everything</strong>
              )}
            </li>
          ))}
          {becomes.not.map(({ to, why }) => (
            <li key={to} className="text-muted">
              {factsOf(to).name}: not here. {why}
            </li>
          ))}
        </ul>
      </section>
      <section>
        <h3 className="mb-1">If one thing takes several drives</h3>
        <ul>
          {causes.map(({ cause, takes, marginLeft }) => (
            <li key={cause} className="py-0.5">
              {cause}: takes {takes.length === 1 ? 'one drive' : `${String(takes.length)} drives`};{' '}
              {marginLeft < 0 ? (
                <strong className="text-thinned">the pool stops</strong>
              ) : (
                `nothing stops, it can lose ${marginLeft === 0 ? 'none' : String(marginLeft)} more`
              )}
            </li>
          ))}
        </ul>
        {causes.some(({ marginLeft }) => marginLeft < 0) && (
          <p className="mt-1 text-sm text-muted">
            Stopped is not yet lost: put everything back as it was before anything else, and rebuild nothing.
          </p>
        )}
      </section>
    </div>
  );
}
