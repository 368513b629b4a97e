import { Gauge, Registry } from 'prom-client';
import { figures } from '../../store/figures';
import { SCHEMA } from '../../store/migrate';
import { watchAtLarge } from '../../store/watches';
import { viewerOf } from '../access/viewer';
import type { App } from '../app';
import { problems } from './problem';

/** Set by the server in front on whatever comes: whether it is from this machine itself, passed on by nobody. */
const DIRECT_HEADER = 'x-shelf-direct';
/** How the figures are written (OpenMetrics 1.0), which monitoring systems read. */
const TYPE = Registry.OPENMETRICS_CONTENT_TYPE;

/**
 * The figures of the shelf for a monitoring system: to whoever asks from this machine, or with a token of the scope `metrics`. What is
 * not known has no line: an alarm on what is missing is the monitoring system's own.
 */
export async function metrics(
  app: App,
  headers: Headers,
  is: { readonly version: string; readonly commit: string },
): Promise<Response> {
  const viewer = headers.has('authorization') ? await viewerOf(app, headers) : null;
  const mayRead = headers.has('authorization')
    ? viewer?.scopes.includes('metrics') === true
    : headers.get(DIRECT_HEADER) === 'yes';
  if (!mayRead) {
    const no = viewer ? problems.notAllowed('This token is not scoped for "metrics".') : problems.nobody;
    return Response.json({ type: 'about:blank', ...no }, { status: no.status, headers: HEADERS });
  }
  return new Response(await written(app, is), { headers: { ...HEADERS, 'content-type': TYPE } });
}

const HEADERS = { 'cache-control': 'no-store', 'x-content-type-options': 'nosniff' };

async function written(app: App, is: { readonly version: string; readonly commit: string }): Promise<string> {
  const [all, watch] = await Promise.all([figures(app.db), watchAtLarge(app.db)]);
  const registry = new Registry<typeof TYPE>();
  registry.setContentType(TYPE);
  const gauge = (name: string, help: string, value: number | null): void => {
    if (value === null) return;
    new Gauge({ name: `patient_shelf_${name}`, help, registers: [registry] }).set(value);
  };
  new Gauge({
    name: 'patient_shelf_build_info',
    help: 'What runs.',
    labelNames: ['version', 'commit', 'schema'],
    registers: [registry],
  }).set({ ...is, schema: SCHEMA }, 1);
  gauge('units', 'Units on the shelf.', all.units);
  gauge('needs', 'What needs hands now.', all.needs);
  gauge('jobs_running', 'Rebuilds, checks and copies that are waited for.', all.jobs);
  gauge('mails_waiting', 'Mails of units nobody has settled.', all.letters);
  gauge('notification_rules_failing', 'Rules by which somebody could not be told the last time.', all.rulesFailing);
  gauge('sign_in_failures', 'Sign-ins that failed within the last hour.', all.signInFailures);
  gauge('watched_units', 'Units that are asked how they are.', watch.units);
  gauge('silent_units', 'Of those, units that do not answer.', watch.silent);
  gauge('last_look_timestamp_seconds', 'When a look at a unit last ended.', secondsOf(watch.lastEnded));
  gauge('worker_beat_timestamp_seconds', 'When what listens and tells was last alive.', all.beatAt);
  gauge('last_backup_timestamp_seconds', 'When the last good backup was made.', all.backupAt);
  gauge('last_backup_bytes', 'How large it is.', all.backupBytes);
  return registry.metrics();
}

function secondsOf(at: string | null): number | null {
  return at === null ? null : Date.parse(at) / 1000;
}
