import type { ReactNode } from 'react';
import type { App } from '~/service/app';
import { readOrganisation } from '~/service/settings/readSettings';
import { mayAct, type Viewer } from '~/service/access/viewer';
import { RecordBoxLoader } from '~/web/parts/record/RecordBoxLoader';
import { NotifierLoader } from '~/web/parts/messages/NotifierLoader';
import { Toasts } from '~/web/parts/tell/Toasts';
import { FindBox } from './FindBox';
import { Keys } from './Keys';
import { NavLink } from './NavLink';
import { PLACES } from './places';
import { SignOut } from './SignOut';

/** What stands around every page inside: the places, the find box, who is here. */
export async function Frame({
  app,
  viewer,
  children,
}: {
  readonly app: App;
  readonly viewer: Viewer;
  readonly children: ReactNode;
}): Promise<ReactNode> {
  const organisation = await readOrganisation(app);
  const [settings, ...places] = [...PLACES].reverse();
  return (
    <div className="flex h-dvh flex-col-reverse md:flex-row print:h-auto">
      <a href="#content" className="absolute -top-20 left-2 z-40 bg-surface px-3 py-2 focus:top-2">
        Skip to the page
      </a>
      <nav
        aria-label="Places"
        className="no-print flex shrink-0 bg-side max-md:overflow-x-auto max-md:border-t max-md:border-on-side-muted/30 md:w-[184px] md:flex-col md:py-4"
      >
        <div className="px-[18px] pb-5 max-md:hidden">
          <div className="text-lg font-bold text-on-side">Patient Shelf</div>
          <div className="board mt-1 h-1 w-9" />
        </div>
        {places.reverse().map(({ href, name, key }) => (
          <NavLink key={href} href={href} name={name} hint={key} />
        ))}
        <div className="md:mt-auto">
          {settings && <NavLink href={settings.href} name={settings.name} hint={settings.key} />}
        </div>
      </nav>
      <div className="flex min-h-0 min-w-0 flex-1 flex-col">
        <header className="no-print flex min-h-14 items-center gap-4 border-b border-line bg-surface px-5 py-2">
          <FindBox />
          <div className="ml-auto flex items-center gap-3 text-sm">
            <span className="text-right text-muted max-sm:hidden">
              {organisation.name}
              {organisation.isDemo && ' (demo)'}
              <br />
              {viewer.name}, {viewer.role}
            </span>
            <span className="max-sm:hidden">
              <SignOut />
            </span>
          </div>
        </header>
        {children}
      </div>
      <Keys />
      {mayAct(viewer, 'keeper') && <RecordBoxLoader />}
      <Toasts />
      <NotifierLoader />
    </div>
  );
}
