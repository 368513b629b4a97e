import { format } from 'node:util';
import pino from 'pino';

/** Keys, tokens and passwords, wherever they stand in a text. */
const SECRET =
  /((?:\bkey|token|password|secret)["']?\s*[=:]\s*["']?|\bBearer\s+|session_token=|postgres:\/\/[^:@\s]*:)[^\s"'&;,@]+/gi;
/** The same in quotes, blanks and all. */
const QUOTED = /("(?:key|token|password|secret)"\s*:\s*")(?:[^"\\]|\\.)*/gi;
export const scrubbed = (text) => text.replace(QUOTED, '$1…').replace(SECRET, '$1…');

/**
 * All this process says goes out as lines of JSON, without keys: to its own output, which is a file. Nobody waits for it,
 * and a disk that is full costs lines and nothing else.
 */
export function logLines() {
  const out = pino.destination({ fd: 1, sync: false });
  out.on('error', () => undefined);
  const log = pino(
    {
      base: { process: process.pid },
      timestamp: pino.stdTimeFunctions.isoTime,
      formatters: { level: (level) => ({ level }) },
    },
    out,
  );
  for (const [name, level] of [
    ['log', 'info'],
    ['info', 'info'],
    ['warn', 'warn'],
    ['error', 'error'],
    ['debug', 'debug'],
  ])
    console[name] = (...said) => {
      const [first] = said;
      // What has happened has fields of its own: they are searched for.
      if (typeof first?.event === 'string') {
        const fields = Object.entries(first).map(([key, of]) => [key, typeof of === 'string' ? scrubbed(of) : of]);
        return void log[level](Object.fromEntries(fields), first.event);
      }
      const error = said.find((one) => one instanceof Error);
      const trace = error?.stack === undefined ? {} : { code: error.code, trace: scrubbed(error.stack) };
      log[level](trace, scrubbed(error && said.length === 1 ? error.message : format(...said)));
    };
  return log;
}
