import type { Body } from './resources';

/** An answer of the service: what a server writes. */
export interface Answer {
  readonly status: number;
  readonly headers: Readonly<Record<string, string>>;
  readonly text: string;
}

const JSON_TYPE = 'application/json; charset=utf-8';

/** What stands in every answer (DSP0266, "Response headers"). */
const ALWAYS = { 'odata-version': '4.0', 'cache-control': 'no-cache' } as const;

export function answer(status: number, body: Body | null, headers: Readonly<Record<string, string>> = {}): Answer {
  return {
    status,
    headers: { ...ALWAYS, ...(body ? { 'content-type': JSON_TYPE } : {}), ...headers },
    text: body ? JSON.stringify(body) : '',
  };
}

/** Messages of the standard's Base registry, by their ids: the sentence, and how bad it is. */
const MESSAGES = {
  GeneralError: ['A general error has occurred.', 'Critical'],
  ResourceMissingAtURI: ['The resource at the URI %1 was not found.', 'Critical'],
  InsufficientPrivilege: ['There are insufficient privileges for the account or credentials.', 'Critical'],
  OperationNotAllowed: ['The HTTP method is not allowed on this resource.', 'Critical'],
  MalformedJSON: [
    'The request body submitted was malformed JSON and could not be parsed by the receiving service.',
    'Critical',
  ],
  PropertyMissing: ['The property %1 is a required property and must be included in the request.', 'Warning'],
  PropertyUnknown: ['The property %1 is not in the list of valid properties for the resource.', 'Warning'],
  PropertyNotWritable: ['The property %1 is a read-only property and cannot be assigned a value.', 'Warning'],
  PropertyValueTypeError: [
    'The value %1 for the property %2 is of a different type than the property can accept.',
    'Warning',
  ],
  PropertyValueNotInList: ['The value %1 for the property %2 is not in the list of acceptable values.', 'Warning'],
  QueryNotSupported: ['Querying is not supported by the implementation.', 'Warning'],
  QueryParameterValueFormatError: [
    'The value %1 for the parameter %2 is not in a format that the parameter can accept.',
    'Warning',
  ],
  PreconditionFailed: ['The ETag supplied did not match the ETag required to change this resource.', 'Critical'],
  ServiceTemporarilyUnavailable: ['The service is temporarily unavailable. Retry in %1 seconds.', 'Critical'],
  CreateLimitReachedForResource: [
    'The create operation failed because the resource has reached the limit of possible resources.',
    'Critical',
  ],
} as const;

export type MessageId = keyof typeof MESSAGES;

/** An error as the standard has it: `error` with its extended information. */
export function failure(
  status: number,
  id: MessageId,
  args: readonly string[] = [],
  headers: Readonly<Record<string, string>> = {},
  property?: string,
): Answer {
  const [sentence, severity] = MESSAGES[id];
  const text = args.reduce((words, arg, i) => words.replace(`%${String(i + 1)}`, arg), sentence as string);
  const MessageId = `Base.1.18.${id}`;
  const info = {
    '@odata.type': '#Message.v1_2_0.Message',
    MessageId,
    Message: text,
    MessageArgs: args,
    MessageSeverity: severity,
    Resolution: 'Change the request, and send it again.',
    ...(property === undefined ? {} : { RelatedProperties: [`#/${property}`] }),
  };
  return answer(status, { error: { code: MessageId, message: text, '@Message.ExtendedInfo': [info] } }, headers);
}
