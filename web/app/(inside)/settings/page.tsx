import { cookies } from 'next/headers';
import { readSettings } from '~/service/settings/readSettings';
import { readTestedModels } from '~/service/upkeep/upkeepOperations';
import { mayAct } from '~/service/access/viewer';
import { readNetworks } from '~/service/watch/networkOperations';
import { Networks } from '~/web/parts/settings/Networks';
import { Organisation } from '~/web/parts/settings/Organisation';
import { People } from '~/web/parts/settings/People';
import { Profiles } from '~/web/parts/settings/Profiles';
import { ShelfBackup } from '~/web/parts/settings/ShelfBackup';
import { TakeAway } from '~/web/parts/settings/TakeAway';
import { TestedModels } from '~/web/parts/settings/TestedModels';
import { Tokens } from '~/web/parts/settings/Tokens';
import { Yourself } from '~/web/parts/settings/Yourself';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Settings' };

export default insidePage('reader', async ({ app, viewer }) => {
  const { organisation, people, tokens, profiles, hasPassword, hasSecondFactor, lastBackup } = await readSettings(
    app,
    viewer,
  );
  return (
    <div className="grid max-w-[1000px] grid-cols-[minmax(0,1fr)] gap-8 p-5">
      <h1 className="-mb-4 text-xl">Settings</h1>
      <Yourself
        theme={(await cookies()).get('shelf-theme')?.value ?? ''}
        hasPassword={hasPassword}
        hasSecondFactor={hasSecondFactor}
      />
      {people && <People people={people} me={viewer.id} />}
      <Tokens tokens={tokens} />
      <Profiles profiles={profiles} mayStore={mayAct(viewer, 'keeper')} />
      <TestedModels models={await readTestedModels(app)} mayStore={mayAct(viewer, 'keeper')} />
      <TakeAway mayBringBack={people !== null} />
      {people && <ShelfBackup last={lastBackup} now={(await app.clock.now()).toISOString()} />}
      {people && <Networks of={await readNetworks(app)} />}
      {people && <Organisation values={organisation} />}
    </div>
  );
});
