/** The role the application works as. It owns nothing. */
export const APP_ROLE = 'patient_shelf_app';

/** May only be added to: the record is never edited. */
const APPEND_ONLY = ['act', 'entry', 'reading', 'drive_order', 'drive_order_closed'];
/** Kept in step with the ledger in the same transaction; can be rebuilt from it. */
export const PROJECTIONS = [
  'unit_now',
  'drive_now',
  'drive_life',
  'plan_now',
  'need_now',
  'wait_now',
  'reading_now',
  'reading_day',
] as const;
const OTHERS = [
  'api_token',
  'organisation',
  'comparison',
  'price_list',
  'profile',
  'paper',
  'tested_model',
  'calendar_feed',
  'message',
  'sign_in_guess',
  'watch',
  'watch_network',
  'report_columns',
  'cause',
  'tell_rule',
  'told',
  'outgoing',
  'heartbeat',
  'letter',
];

/** Noted by the tables' owner. */
const READ_ONLY = ['backup_made'];

/** All the application's role may do, as statements that can be run again. */
export function grants(role: string): string[] {
  return [
    `grant usage on schema public, auth to ${role}`,
    `revoke all on all tables in schema public from ${role}`,
    `grant select on ${READ_ONLY.join(', ')} to ${role}`,
    `grant select, insert on ${APPEND_ONLY.join(', ')} to ${role}`,
    `grant select, insert, update, delete on ${[...PROJECTIONS, ...OTHERS].join(', ')} to ${role}`,
    `grant select, insert, update, delete on all tables in schema auth to ${role}`,
  ];
}
