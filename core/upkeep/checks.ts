import type { Check } from '../../schemas/unitEvent';

/** Things a person makes sure of, in the words of having made sure. */
export const CHECK_WORDS: Readonly<Record<Check, string>> = {
  'factory-password-changed': 'Factory password changed',
  'alarm-mail-tested': 'Alarm mail tested: it arrived',
  'time-set': 'Name, time and time server set',
  'shares-closed': 'Open default shares closed',
  'speed-measured': 'Speed measured',
  'labels-printed': 'Labels printed and stuck on',
};
