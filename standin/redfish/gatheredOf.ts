import type { Gathered } from '../../core/observe/readRedfish';
import type { Truth } from '../truth';
import { resourcesOf, type Body } from './resources';

/** All a unit says, as one would gather it, without asking. */
export function gatheredOf(truth: Truth, now = truth.livedTo): Gathered {
  const all = resourcesOf(truth, now, now);
  const under = (pattern: RegExp): Body[] => [...all].flatMap(([path, body]) => (pattern.test(path) ? [body] : []));
  return {
    drives: under(/\/Drives\/[^/]+$/),
    metrics: Object.fromEntries(
      under(/\/Drives\/[^/]+$/).map((body) => {
        const path = String(body['@odata.id']);
        return [path, { metrics: all.get(`${path}/Metrics`), surroundings: all.get(`${path}/EnvironmentMetrics`) }];
      }),
    ),
    volumes: under(/\/Volumes\/\d+$/),
    chassis: under(/\/Chassis\/[^/]+$/),
    supplies: under(/\/PowerSupplies\/\d+$/),
    fans: under(/\/Fans\/\d+$/),
  };
}
