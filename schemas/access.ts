import { name } from './words';

export const ROLES = ['owner', 'keeper', 'reader'] as const;
export type Role = (typeof ROLES)[number];

export const SCOPES = ['read', 'write', 'metrics'] as const;
export type Scope = (typeof SCOPES)[number];

const personName = { type: 'string', minLength: 1, maxLength: 80, pattern: '\\S' } as const;
const email = { type: 'string', format: 'email', maxLength: 254 } as const;
const password = { type: 'string', minLength: 10, maxLength: 200 } as const;

export const entryBodySchema = {
  type: 'object',
  additionalProperties: false,
  required: ['key'],
  properties: { key: { type: 'string', minLength: 1, maxLength: 200 }, name: personName, email, password },
} as const;

export const newPersonSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['name', 'email', 'role'],
  properties: { name: personName, email, role: { enum: ROLES } },
} as const;

export const changePersonSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['role'],
  properties: { role: { enum: ROLES } },
} as const;

export const newTokenSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['name', 'scopes'],
  properties: {
    name,
    scopes: { type: 'array', minItems: 1, uniqueItems: true, items: { enum: SCOPES } },
  },
} as const;

const timeZone = {
  minLength: 1,
  maxLength: 64,
  description: 'Where people work, by its name in the IANA data base, e.g. Europe/Berlin.',
} as const;

export const organisationSchema = {
  type: 'object',
  additionalProperties: false,
  required: ['name', 'currency'],
  properties: {
    name: { type: 'string', minLength: 1, maxLength: 80, pattern: '\\S' },
    currency: { type: 'string', pattern: '^[A-Z]{3}$', description: 'ISO 4217 code, e.g. EUR.' },
    timeZone: { type: 'string', ...timeZone },
  },
} as const;

/** A change: a time zone that is left out stays as it is, and `null` takes it out. */
export const changeOrganisationSchema = {
  ...organisationSchema,
  properties: { ...organisationSchema.properties, timeZone: { type: ['string', 'null'], ...timeZone } },
} as const;
