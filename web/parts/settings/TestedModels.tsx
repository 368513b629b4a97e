'use client';
import { useRouter } from 'next/navigation';
import type { FormEvent, ReactNode } from 'react';
import type { TestedModel } from '~/service/upkeep/upkeepOperations';
import { Button } from '~/web/parts/form/Button';
import { Field } from '~/web/parts/form/Field';
import { Notice } from '~/web/parts/form/Notice';
import { useSending } from '~/web/parts/form/useSending';

/** The user's own list of drives that worked and drives to avoid; plans to commission read it. */
export function TestedModels({ models, mayStore }: { readonly models: readonly TestedModel[]; readonly mayStore: boolean }): ReactNode {
  const router = useRouter();
  const { busy, fault, run } = useSending();
  const add = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const element = event.currentTarget;
    const form = new FormData(element);
    const text = (name: string): string => String(form.get(name) ?? '').trim();
    if (
      !(await run('POST /tested-models', {
        body: { model: text('model'), verdict: text('verdict') as TestedModel['verdict'], ...(text('note') === '' ? {} : { note: text('note') }) },
      }))
    )
      return;
    element.reset();
    router.refresh();
  };
  const remove = async (model: string): Promise<void> => {
    if (await run('DELETE /tested-models/{model}', { model })) router.refresh();
  };
  return (
    <section aria-label="Tested drives">
      <h2 className="mb-2 text-lg">Tested drives</h2>
      <p className="max-w-[640px] text-muted">Models that worked in your units, and those to avoid. The maker’s own list of tested drives comes first.</p>
      {fault && <Notice grave>{fault.sentence}</Notice>}
      {models.length > 0 && (
        <table className="my-3 w-full border border-line bg-surface">
          <tbody>
            {models.map(({ model, verdict, note }) => (
              <tr key={model} className="border-t border-line first:border-0">
                <td className="px-3 py-1.5">{model}</td>
                <td className={`px-3 py-1.5 ${verdict === 'avoid' ? 'font-semibold text-thinned' : ''}`}>{verdict}</td>
                <td className="px-3 py-1.5 text-muted">{note}</td>
                <td className="px-3 py-1.5 text-right">
                  {mayStore && (
                    <button type="button" className="text-action underline" disabled={busy} onClick={() => void remove(model)}>
                      Take off<span className="sr-only"> {model}</span>
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {mayStore && (
        <form className="mt-3 flex flex-wrap items-end gap-3" onSubmit={(event) => void add(event)}>
          <Field label="Model" name="model" required maxLength={64} autoComplete="off" />
          <label className="mb-1 block">
            <span className="mb-1 block font-semibold">Verdict</span>
            <select name="verdict" className="field">
              <option value="works">works</option>
              <option value="avoid">avoid</option>
            </select>
          </label>
          <Field label="Note" name="note" maxLength={400} autoComplete="off" />
          <Button className="mb-1" type="submit" disabled={busy}>
            Put on the list
          </Button>
        </form>
      )}
    </section>
  );
}
