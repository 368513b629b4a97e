/** @jest-environment jsdom */
import { beforeEach, describe, expect, it, jest } from '@jest/globals';
import { act, renderHook } from '@testing-library/react';
import type { FieldError } from '~/schemas/faults';
import type { OperationName } from '~/service/contract';

const router = { refresh: jest.fn() };
/** What the schema would find wrong, as the test says. */
let wrong: readonly FieldError[] = [];
const faults = await import('./faultsOf');
jest.unstable_mockModule('next/navigation', () => ({ useRouter: () => router }));
jest.unstable_mockModule('./faultsOf', () => ({
  ...faults,
  loadCheck: () => Promise.resolve(null),
  faultsOf: () => Promise.resolve(wrong),
}));
const { useSheet, unread } = await import('./useSheet');

interface Values {
  readonly name: string;
  readonly size: string;
}
const START: Values = { name: '', size: '' };
const SENDS = 'POST /units' as OperationName;

/** The server's next answer; `null`: it is not reached. */
let answer: { readonly status: number; readonly body: object } | null = null;
const asked = jest.fn<typeof fetch>(() =>
  answer === null
    ? Promise.reject(new TypeError('no network'))
    : Promise.resolve({
        ok: answer.status < 300,
        status: answer.status,
        json: () => Promise.resolve(answer?.body),
      } as Response),
);

beforeEach(() => {
  sessionStorage.clear();
  asked.mockClear();
  router.refresh.mockClear();
  globalThis.fetch = asked;
  [wrong, answer] = [[], { status: 201, body: { id: 'u' } }];
});

const opened = (done = jest.fn()) =>
  renderHook(() =>
    useSheet<Values, OperationName>({
      start: START,
      sends: SENDS,
      keep: 'test',
      at: { size: '/drives/0/size' },
      asks: (values) =>
        values.size === '?' ? unread({ size: 'That is no size.' }) : ({ body: { name: values.name } } as never),
      done,
    }),
  );
type Opened = ReturnType<typeof opened>;
const type = ({ result }: Opened, name: keyof Values, text: string): Promise<void> =>
  act(() => Promise.resolve(result.current.form.setValue(name, text, { shouldDirty: true })));
const submit = ({ result }: Opened): Promise<void> => act(() => result.current.submit());
const errorAt = ({ result }: Opened, name: keyof Values): string | undefined =>
  result.current.form.getFieldState(name).error?.message;

describe('useSheet', () => {
  it('sends once what stands there, tells who asked, and keeps nothing afterwards', async () => {
    const done = jest.fn();
    const sheet = opened(done);
    await type(sheet, 'name', 'Heron');
    await submit(sheet);
    expect(asked).toHaveBeenCalledTimes(1);
    expect(done).toHaveBeenCalledWith({ id: 'u' }, { name: 'Heron', size: '' });
    expect(opened().result.current.draftOf !== null).toBe(false);
  });

  it('has what was typed again after a reload, says so, and forgets it when told to', async () => {
    const sheet = opened();
    await type(sheet, 'name', 'Her');
    sheet.unmount();
    const again = opened();
    expect([again.result.current.draftOf !== null, again.result.current.form.getValues().name]).toEqual([true, 'Her']);
    await act(() => Promise.resolve(again.result.current.startAfresh()));
    expect([again.result.current.draftOf !== null, again.result.current.form.getValues().name]).toEqual([false, '']);
    again.unmount();
    expect(opened().result.current.draftOf !== null).toBe(false);
  });

  it('loses nothing where the server is not reached, and says that nothing was stored', async () => {
    answer = null;
    const sheet = opened();
    await type(sheet, 'name', 'Heron');
    await submit(sheet);
    expect(sheet.result.current.fault).toMatch(/Nothing was stored/);
    expect(sheet.result.current.form.getValues().name).toBe('Heron');
    expect(opened().result.current.draftOf !== null).toBe(true);
  });

  it('puts what a schema or the server finds at its field, by pointer, and the rest on the form', async () => {
    wrong = [{ pointer: '#/drives/0/size', detail: 'is missing' }];
    const sheet = opened();
    await type(sheet, 'name', 'Heron');
    await submit(sheet);
    expect([errorAt(sheet, 'size'), asked.mock.calls.length]).toEqual(['is missing', 0]);

    wrong = [];
    answer = {
      status: 422,
      body: { code: 'invalid', detail: 'Two things.', errors: [{ pointer: '#/name', detail: 'is taken' }] },
    };
    await submit(sheet);
    expect([errorAt(sheet, 'name'), sheet.result.current.fault]).toEqual(['is taken', 'Two things.']);
    expect(router.refresh).not.toHaveBeenCalled();
  });

  it('does not send what it cannot read', async () => {
    const sheet = opened();
    await type(sheet, 'size', '?');
    await submit(sheet);
    expect([errorAt(sheet, 'size'), asked.mock.calls.length]).toEqual(['That is no size.', 0]);
  });

  it('looks again where somebody was first, and keeps what is typed', async () => {
    answer = { status: 409, body: { code: 'version-conflict', detail: 'Somebody was first.' } };
    const sheet = opened();
    await type(sheet, 'name', 'Heron');
    await submit(sheet);
    expect(router.refresh).toHaveBeenCalledTimes(1);
    expect(sheet.result.current.form.getValues().name).toBe('Heron');
  });
});
