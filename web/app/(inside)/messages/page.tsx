import { readLetters } from '~/service/letter/letterOperations';
import { readHeartbeat, readMailServer, readTellRules, readWhoCanBeTold } from '~/service/tell/readTelling';
import { readPlaces } from '~/service/settings/readSettings';
import { readUnitsOfLetters } from '~/service/letter/readUnitsOfLetters';
import { mayAct } from '~/service/access/viewer';
import { ViewLinks } from '~/web/parts/frame/ViewLinks';
import { Heartbeat } from '~/web/parts/messages/Heartbeat';
import { Letters } from '~/web/parts/messages/Letters';
import { MailServer } from '~/web/parts/messages/MailServer';
import { NotifyHere } from '~/web/parts/messages/NotifyHere';
import { TellRules } from '~/web/parts/messages/TellRules';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Messages' };

export default insidePage('reader', async ({ app, viewer, query }) => {
  const isLetters = query['view'] === 'letters';
  const isOwner = mayAct(viewer, 'owner');
  return (
    <div className="grid max-w-[1000px] grid-cols-[minmax(0,1fr)] gap-6 p-5">
      <h1 className="-mb-2 text-xl">Messages</h1>
      <ViewLinks
        label="Messages"
        links={[
          { href: '/messages', words: 'Who is told', isHere: !isLetters },
          { href: '/messages?view=letters', words: 'Mail that came', isHere: isLetters },
        ]}
      />
      {isLetters ? (
        <Letters
          letters={await readLetters(app)}
          units={await readUnitsOfLetters(app)}
          mayRecord={mayAct(viewer, 'keeper')}
        />
      ) : (
        <>
          <TellRules
            rules={await readTellRules(app, viewer)}
            people={isOwner ? await readWhoCanBeTold(app) : null}
            sites={[...new Set((await readPlaces(app)).map(({ site }) => site))]}
            hasServer={(await readMailServer(app)) !== null}
          />
          <NotifyHere />
          {isOwner && <MailServer server={await readMailServer(app)} />}
          {isOwner && <Heartbeat beat={await readHeartbeat(app)} />}
        </>
      )}
    </div>
  );
});
