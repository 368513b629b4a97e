import type { ReactNode } from 'react';
import { Sentence } from '~/web/parts/frame/Sentence';
import { ButtonLink } from '~/web/parts/form/Button';
import { Notice } from '~/web/parts/form/Notice';
import type { WayOn } from './wayOn';

/** The button that leads on from a refusal; nothing where the form itself asks for what is lacking. */
export function WayOnButton({ way }: { readonly way: WayOn | null }): ReactNode {
  return (
    way && (
      <p className="mt-2" data-way-on>
        <ButtonLink href={way.href}>{way.words}</ButtonLink>
      </p>
    )
  );
}

/** Why something was not recorded, and the next step as a button; nothing while nothing was refused. */
export function Refused({ fault, way }: { readonly fault: string | null; readonly way: WayOn | null }): ReactNode {
  return (
    fault !== null && (
      <Notice grave>
        <Sentence of={fault} />
        <WayOnButton way={way} />
      </Notice>
    )
  );
}
