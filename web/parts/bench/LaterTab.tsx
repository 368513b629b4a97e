import type { ReactNode } from 'react';
import type { Appraisal } from '~/core/appraisal/appraise';
import type { GrowthStep } from '~/core/growth/nextSteps';
import { factsOf } from '~/core/layout/scheme';
import { formatBytes } from '~/core/quantity/formatBytes';
import type { Profile } from '~/core/platform/profile';
import type { SharedCause } from '~/core/survival/sharedCauses';

interface Props {
  readonly appraisal: Appraisal;
  readonly steps: readonly GrowthStep[];
  readonly causes: readonly SharedCause[];
  readonly profile: Profile;
}

/** What comes later: how it grows, what it can become, and what one cable or supply would take down. */
export function LaterTab({ appraisal, steps, causes, profile }: Props): ReactNode {
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
          <p className="mt-1 text-sm text-muted">In this family the space appears only after an expand command; until then it simply is not there.</p>
        )}
      </section>
      <section>
        <h3 className="mb-1">What it can become</h3>
        {appraisal.becomes.length === 0 ? (
          <p className="text-muted">Nothing else, without erasing: this family does not convert it.</p>
        ) : (
          <ul>
            {appraisal.becomes.map(({ to, keepsData }) => (
              <li key={to}>
                {factsOf(to).name}: {keepsData ? 'keeps the data; back up first, always' : <strong className="text-thinned">erases everything</strong>}
              </li>
            ))}
          </ul>
        )}
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
          <p className="mt-1 text-sm text-muted">Stopped is not yet lost: put everything back as it was before anything else, and rebuild nothing.</p>
        )}
      </section>
    </div>
  );
}
