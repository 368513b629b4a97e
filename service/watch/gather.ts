import type { Gathered } from '../../core/observe/readRedfish';
import type { UnitDoor } from './unitDoor';

type Body = Readonly<Record<string, unknown>>;
type Ask = (path: string) => Promise<unknown>;

/** Collections are cut in pages; no unit has more of them. */
const MOST_PAGES = 60;

/**
 * Asks a unit for all that is looked at, from its service root on (DSP0266): boxes with their supplies and fans, drives
 * with what is measured of them, volumes. Where it can write out what it links to, one question does for many.
 *
 * @param base what stands before /redfish/v1 in its address, without a slash at the end
 */
export async function gather(door: Pick<UnitDoor, 'ask'>, base: string): Promise<Gathered> {
  const ask: Ask = (path) => door.ask('GET', path);
  const root = bodyOf(await ask(`${base}/redfish/v1/`));
  const features = bodyOf(bodyOf(root['ProtocolFeaturesSupported'])['ExpandQuery']);
  const levels = typeof features['MaxLevels'] === 'number' ? features['MaxLevels'] : 0;
  const expand =
    features['NoLinks'] === true
      ? (deep: number) => `?$expand=.($levels=${String(Math.min(deep, levels || 1))})`
      : null;
  const members = (link: unknown): Promise<Body[]> => membersOf(ask, link, expand?.(1) ?? '');

  const [drives, volumes]: [Body[], Body[]] = [[], []];
  for (const system of await members(root['Systems']))
    for (const storage of await members(system['Storage'])) {
      const whole = expand ? bodyOf(await ask(`${idOf(storage)}${expand(2)}`)) : storage;
      for (const one of listOf(whole['Drives'])) drives.push(await written(ask, one));
      volumes.push(...(await members(storage['Volumes'])));
    }
  const metrics: Record<string, { metrics?: unknown; surroundings?: unknown }> = {};
  for (const drive of drives)
    metrics[idOf(drive)] = {
      metrics: await written(ask, drive['Metrics']),
      surroundings: await written(ask, drive['EnvironmentMetrics']),
    };
  const chassis = await members(root['Chassis']);
  const [supplies, fans]: [Body[], Body[]] = [[], []];
  for (const box of chassis) {
    // Older services have both as lists in one resource of their own.
    if (idOf(box['PowerSubsystem']) !== '')
      supplies.push(...(await members((await written(ask, box['PowerSubsystem']))['PowerSupplies'])));
    else supplies.push(...listOf((await written(ask, box['Power']))['PowerSupplies']).map(bodyOf));
    if (idOf(box['ThermalSubsystem']) !== '')
      fans.push(...(await members((await written(ask, box['ThermalSubsystem']))['Fans'])));
    else fans.push(...listOf((await written(ask, box['Thermal']))['Fans']).map(bodyOf));
  }
  return { drives, metrics, volumes, chassis, supplies, fans };
}

/** All members of a collection, page after page, each written out. */
async function membersOf(ask: Ask, link: unknown, query: string): Promise<Body[]> {
  const found: Body[] = [];
  const first = idOf(link);
  if (first === '') return found;
  const seen = new Set<string>();
  let next = `${first}${query}`;
  for (let page = 0; page < MOST_PAGES && next !== '' && !seen.has(next); page++) {
    seen.add(next);
    const body = bodyOf(await ask(next));
    for (const one of listOf(body['Members'])) found.push(await written(ask, one));
    const more = body['Members@odata.nextLink'];
    next = typeof more === 'string' ? more : '';
  }
  return found;
}

/** A resource, asked for where only its address is given; empty where not even that is. */
async function written(ask: Ask, of: unknown): Promise<Body> {
  const body = bodyOf(of);
  return Object.keys(body).length === 1 && idOf(body) !== '' ? bodyOf(await ask(idOf(body))) : body;
}

function idOf(of: unknown): string {
  const id = bodyOf(of)['@odata.id'];
  return typeof id === 'string' ? id : '';
}

function bodyOf(of: unknown): Body {
  return typeof of === 'object' && of !== null && !Array.isArray(of) ? (of as Body) : {};
}

function listOf(of: unknown): readonly unknown[] {
  return Array.isArray(of) ? of.slice(0, 1000) : [];
}
