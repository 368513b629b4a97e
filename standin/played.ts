import type { Fault } from '../schemas/panel';
import type { Asked, Desk } from './redfish/service';
import { answerOf, newDesk } from './redfish/service';
import { answer, failure, type Answer } from './redfish/message';
import { ROOT_PATH } from './redfish/resources';
import { toldBetween, type Told } from './redfish/events';
import { lived, type Truth } from './truth';

/** How long it is away when it starts anew, and how much later a slow one answers; milliseconds of real time. */
export const RESTART_MS = 4000;
export const SLOW_MS = 3000;
const DAY_MS = 24 * 3600e3;

/** One unit that is played: how it really is, what its service holds, what is wrong with it. */
export interface Played {
  readonly n: number;
  readonly truth: () => Truth;
  readonly change: (truth: Truth) => void;
  readonly fault: () => Fault;
  readonly setFault: (fault: Fault) => void;
  /** Lives up to now, and gives what there is to tell since it was last asked. */
  readonly live: () => Told[];
  readonly desk: () => Desk;
  /** `null`: nothing comes, ever. A number of milliseconds it takes, and whether it breaks off half way. */
  readonly answer: (
    asked: Asked,
    from: string,
  ) => { readonly answer: Answer; readonly afterMs: number; readonly half: boolean } | null;
  readonly isAway: () => boolean;
}

interface Around {
  readonly n: number;
  readonly base: string;
  readonly password: string;
  readonly page: number;
  /** The unit's own clock, and the machine's. */
  readonly now: () => number;
  readonly real: () => number;
}

export function playUnit(first: Truth, { n, base, password, page, now, real }: Around): Played {
  let truth = first;
  let told = first;
  let fault: Fault = 'none';
  let desk = newDesk(now());
  let awayUntil = 0;
  let tests = 0;
  const live = (): void => {
    truth = lived(truth, now());
  };
  return {
    n,
    truth: () => {
      live();
      return truth;
    },
    change: (next) => {
      truth = next;
    },
    fault: () => fault,
    setFault: (next) => {
      fault = next === 'restart' || next === 'certificate' ? 'none' : next;
      if (next !== 'restart') return;
      desk = newDesk(now());
      awayUntil = real() + RESTART_MS;
    },
    live: () => {
      live();
      const since = toldBetween(told, truth);
      told = truth;
      const asked = Array.from({ length: tests }, () => TEST);
      tests = 0;
      return [...since, ...asked];
    },
    desk: () => desk,
    isAway: () => real() < awayUntil,
    answer: (asked, from) => {
      live();
      if (fault === 'hang') return null;
      const service = {
        base,
        password,
        page,
        from,
        desk,
        now: () => now() - (fault === 'wrong-time' ? 400 * DAY_MS : 0),
        truth: () => truth,
        change: (next: Truth) => {
          truth = next;
        },
        test: () => {
          tests++;
        },
      };
      const right = answerOf(service, asked);
      const wrong = right.status === 200 ? broken(fault, right) : right;
      return {
        answer: fault === 'error' ? failure(500, 'GeneralError') : wrong,
        afterMs: fault === 'slow' ? SLOW_MS : 0,
        half: fault === 'half',
      };
    },
  };
}

const TEST: Told = {
  messageId: 'ResourceEvent.1.3.TestMessage',
  severity: 'OK',
  message: 'This is a test message.',
  origin: `${ROOT_PATH}/EventService`,
};

/** Answers as a broken or a hostile unit gives them. */
function broken(fault: Fault, right: Answer): Answer {
  if (fault === 'huge') return { ...right, text: `{"Name":"${'x'.repeat(10_000_000)}"}` };
  if (fault === 'deep') return { ...right, text: `${'{"a":'.repeat(5000)}1${'}'.repeat(5000)}` };
  if (fault !== 'loop' && fault !== 'nonsense') return right;
  const body = JSON.parse(right.text === '' ? '{}' : right.text) as Record<string, unknown>;
  if (fault === 'loop')
    return answer(200, { ...body, ...(body['Members'] ? { 'Members@odata.nextLink': body['@odata.id'] } : {}) });
  return answer(200, twisted(body) as Record<string, unknown>);
}

function twisted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(twisted);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([name, part]) => [name, TWISTS[name] ?? twisted(part)]));
}

const TWISTS: Readonly<Record<string, unknown>> = {
  CapacityBytes: -5,
  SerialNumber: '<img src=x onerror=alert(1)>',
  Status: 'OK',
  Name: { toString: 'no' },
  Operations: 7,
  FailurePredicted: 'yes',
};
