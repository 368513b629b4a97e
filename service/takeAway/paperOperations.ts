import { isUuid } from '../../core/value/isUuid';
import { createHash, randomUUID } from 'node:crypto';
import type { FromSchema } from 'json-schema-to-ts';
import { serialKey } from '../../core/drive/serial';
import { refusal, type Refusal } from '../../core/value/refusal';
import { newPaperSchema } from '../../schemas/record';
import { lifeOf } from '../../store/driveLives';
import { deletePaper, insertPaper, paperById, type Paper, type PaperType } from '../../store/papers';
import type { App } from '../app';
import { operation, operationTaking } from '../door/operation';
import { removal } from '../door/removal';
import { aboutUnit } from '../units/findUnit';

export type { Paper };

const MOST_BYTES = 3_000_000;

/** What a file is, by what it begins with; its name is not asked. `null` for anything that is not kept here. */
export function typeOfBytes(bytes: Buffer): PaperType | null {
  const starts = (...values: number[]): boolean => values.every((value, i) => bytes[i] === value);
  if (starts(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)) return 'image/png';
  if (starts(0xff, 0xd8, 0xff)) return 'image/jpeg';
  if (bytes.subarray(0, 4).toString('latin1') === 'RIFF' && bytes.subarray(8, 12).toString('latin1') === 'WEBP')
    return 'image/webp';
  if (bytes.subarray(0, 5).toString('latin1') === '%PDF-') return 'application/pdf';
  // Text is what is valid UTF-8 without control characters; it is served as text and nothing else, whatever it says.
  const text = bytes.toString('utf8');
  return text.includes('\ufffd') || /[\u0000-\u0008\u000e-\u001f]/.test(text) ? null : 'text/plain';
}

type NewPaper = FromSchema<typeof newPaperSchema>;

interface PaperKept {
  readonly id: string;
  readonly type: PaperType;
  readonly size: number;
}

async function keep(
  app: App,
  of: { unit: string } | { serial: string },
  { name, base64 }: NewPaper,
  by: string,
): Promise<PaperKept | Refusal> {
  const bytes = Buffer.from(base64, 'base64');
  if (bytes.length > MOST_BYTES)
    return refusal('paper-too-large', 'A paper has at most 3 MB. Scan it smaller.', '/base64');
  const type = typeOfBytes(bytes);
  if (type === null)
    return refusal('paper-type', 'Kept here are pictures (PNG, JPEG, WebP), PDF and plain text.', '/base64');
  const id = randomUUID();
  const sha256 = createHash('sha256').update(bytes).digest('hex');
  await insertPaper(
    app.db,
    { id, unit: null, serial: null, ...of, name: name.trim(), type, size: bytes.length, sha256, addedBy: by },
    bytes,
  );
  return { id, type, size: bytes.length };
}

const addToUnit = operationTaking<NewPaper>(newPaperSchema)({
  method: 'POST',
  path: '/units/{id}/papers',
  summary: 'Keep a picture or a paper with a unit',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: aboutUnit(({ app, viewer, body }, unit) => keep(app, { unit: unit.id }, body, viewer.name)),
});

const addToDrive = operationTaking<NewPaper>(newPaperSchema)({
  method: 'POST',
  path: '/drives/{serial}/papers',
  summary: 'Keep a picture or a paper with a drive',
  needs: 'keeper',
  scope: 'write',
  status: 201,
  run: async ({ app, viewer, params, body }) => {
    const serial = serialKey(params['serial'] ?? '');
    return (await lifeOf(app.db, serial))
      ? keep(app, { serial }, body, viewer.name)
      : refusal('not-found', 'There is no drive of this serial.');
  },
});

const noPaper = refusal('not-found', 'There is no such paper.');

const get = operation({
  method: 'GET',
  path: '/papers/{id}',
  file: '*/*',
  summary: 'A picture or a paper, as it came',
  needs: 'reader',
  scope: 'read',
  run: async ({ app, params }) => {
    const id = params['id'] ?? '';
    const paper = isUuid(id) ? await paperById(app.db, id) : undefined;
    if (!paper) return noPaper;
    const { name, type, bytes } = paper;
    return {
      kind: 'file' as const,
      name,
      type: type === 'text/plain' ? 'text/plain; charset=utf-8' : type,
      bytes,
      isShown: type.startsWith('image/'),
    };
  },
});

const remove = removal('/papers/{id}', 'Throw a paper away', deletePaper, noPaper);

export const papers = [addToUnit, addToDrive, get, remove];
