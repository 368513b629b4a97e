import { allProfiles } from '~/service/profiles';
import { readPlaces } from '~/service/readSettings';
import { RegisterForm } from '~/web/parts/unit/RegisterForm';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Register a unit' };

export default insidePage('keeper', async ({ app }) => {
  const [profiles, places] = await Promise.all([allProfiles(app), readPlaces(app)]);
  return (
    <div className="max-w-[760px] p-5">
      <h1 className="text-xl">Register a unit</h1>
      <p className="mb-4 text-muted">
        A unit in use, or one still in its box. Drives are put in afterwards: bay by bay as they are read, or by the plan that commissions it. Everything can be
        changed later.
      </p>
      <RegisterForm
        places={places}
        profiles={[...profiles.values()].map(({ id, name, summary, bays }) => ({
          id,
          name,
          summary,
          choices: bays.choices,
          perEnclosure: bays.perEnclosure ?? null,
        }))}
      />
    </div>
  );
});
