import type { Scheme } from '~/core/layout/scheme';
import { allProfiles } from '~/service/settings/profiles';
import { readPlaces } from '~/service/settings/readSettings';
import { ofFamily } from '~/web/parts/unit/aboutWords';
import { RegisterForm } from '~/web/parts/unit/RegisterForm';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Register a unit' };

export default insidePage('keeper', async ({ app, query }) => {
  const [profiles, places] = await Promise.all([allProfiles(app), readPlaces(app)]);
  return (
    <div className="max-w-[760px] p-5">
      <h1 className="text-xl">Register a unit</h1>
      <p className="mb-4 text-muted">
        A unit in use, or one still in its box. One that runs is taken over as its page shows it, and nothing on it is
        touched; an empty one is filled bay by bay, or by the plan that commissions it. Everything can be changed later.
      </p>
      <RegisterForm
        places={places}
        like={{ family: String(query['family'] ?? ''), bays: Number(query['bays']) || null }}
        profiles={[...profiles.values()].map((profile) => {
          const { id, name, summary, bays, schemes, unitPage } = profile;
          return {
            id,
            name,
            summary,
            choices: bays.choices,
            perEnclosure: bays.perEnclosure ?? null,
            schemes: Object.keys(schemes) as Scheme[],
            unitPage,
            takes: { name, bays },
            driveChange: ofFamily({ profile }).driveChange,
          };
        })}
      />
    </div>
  );
});
