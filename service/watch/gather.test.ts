import { readRedfish } from '../../core/observe/readRedfish';
import { isRefusal } from '../../core/value/refusal';
import { resourcesOf, type Body } from '../../standin/redfish/resources';
import { done, type Truth } from '../../standin/truth';
import { unitsPlayed } from '../../standin/units';
import { gather } from './gather';

const NOW = Date.parse('2026-11-29T12:00:00Z');
const [HERON] = unitsPlayed(1, 1, NOW, process.cwd()) as [Truth];

/** A unit that answers only what stands here, one question a resource: no writing out, no pages. */
async function asked(truth: Truth, without: readonly string[]) {
  const all = resourcesOf(truth, NOW, NOW);
  const root: Body = {
    Systems: { '@odata.id': '/redfish/v1/Systems' },
    Chassis: { '@odata.id': '/redfish/v1/Chassis' },
  };
  const questions: string[] = [];
  const gathered = await gather(
    {
      ask: (_method, path) => {
        questions.push(path);
        const body = path === '/redfish/v1/' ? root : all.get(path);
        if (!body) throw new Error(`Nothing is at ${path}.`);
        return Promise.resolve(Object.fromEntries(Object.entries(body).filter(([name]) => !without.includes(name))));
      },
    },
    '',
  );
  return { ...readRedfish(truth.unit, gathered), questions };
}

it('reads supplies and fans of older services as of newer ones', async () => {
  const hurt = done(HERON, { do: 'supply', name: 'Supply 1', lost: true });
  if (isRefusal(hurt)) throw new Error(hurt.sentence);
  const newer = await asked(hurt, ['Power', 'Thermal']);
  const older = await asked(hurt, ['PowerSubsystem', 'ThermalSubsystem']);
  expect(older.observation.parts).toEqual(newer.observation.parts);
  expect(older.observation.parts).toContainEqual({ part: 'supply', name: 'Supply 1', isLost: true });
  expect(older.impossible).toEqual([]);
  // Where it has both, one is asked.
  const both = await asked(hurt, []);
  expect(both.observation.parts).toEqual(newer.observation.parts);
  expect(both.questions.some((path) => /\/(Power|Thermal)$/.test(path))).toBe(false);
  // Where it has neither, it says nothing of them.
  expect((await asked(hurt, ['Power', 'Thermal', 'PowerSubsystem', 'ThermalSubsystem'])).observation.parts).toEqual([
    { part: 'enclosure', name: hurt.unit.enclosures[0]?.name, isLost: false },
  ]);
});
