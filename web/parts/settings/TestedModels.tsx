'use client';
import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import type { TestedModel } from '~/service/upkeep/upkeepOperations';
import { filled } from '~/web/parts/form/filled';
import { SelectField } from '~/web/parts/form/fields/SelectField';
import { TextField } from '~/web/parts/form/fields/TextField';
import { Notice } from '~/web/parts/form/Notice';
import { Sheet } from '~/web/parts/form/sheet/Sheet';
import { useSheet } from '~/web/parts/form/sheet/useSheet';
import type { Column } from '~/web/parts/table/DataTable';
import { ListHere } from '~/web/parts/table/ListHere';
import { useSending } from '~/web/parts/form/useSending';

const COLUMNS: readonly Column<TestedModel>[] = [
  { id: 'model', head: 'Model', value: ({ model }) => model },
  {
    id: 'verdict',
    head: 'Verdict',
    value: ({ verdict }) => verdict,
    cell: ({ verdict }) =>
      verdict === 'avoid' ? <span className="font-semibold text-thinned">{verdict}</span> : verdict,
  },
  { id: 'note', head: 'Note', value: ({ note }) => note ?? null },
];

/** The user's own list of drives that worked and drives to avoid; plans to commission read it. */
export function TestedModels({
  models,
  mayStore,
}: {
  readonly models: readonly TestedModel[];
  readonly mayStore: boolean;
}): ReactNode {
  const router = useRouter();
  const { busy, fault, run } = useSending();
  const sheet = useSheet({
    start: { model: '', verdict: 'works', note: '' },
    keep: 'tested model',
    sends: 'POST /tested-models',
    asks: (values) => ({
      body: {
        model: values.model.trim(),
        verdict: values.verdict as TestedModel['verdict'],
        ...filled(values, 'note'),
      },
    }),
    done: () => router.refresh(),
  });
  const remove = async (model: string): Promise<void> => {
    if (await run('DELETE /tested-models/{model}', { model })) router.refresh();
  };
  const takeOff: Column<TestedModel> = {
    id: 'actions',
    head: 'Actions',
    isBare: true,
    value: () => null,
    cell: ({ model }) => (
      <button
        type="button"
        className="text-action underline max-sm:min-h-11"
        disabled={busy}
        onClick={() => void remove(model)}
      >
        Take off<span className="sr-only"> {model}</span>
      </button>
    ),
  };
  return (
    <section aria-label="Tested drives">
      <h2 className="mb-2 text-lg">Tested drives</h2>
      <p className="max-w-[640px] text-muted">
        Models that worked in your units, and those to avoid. The maker’s own list of tested drives comes first.
      </p>
      {fault && <Notice grave>{fault.sentence}</Notice>}
      {models.length > 0 && (
        <div className="my-3">
          <ListHere
            name="tested-"
            label="Tested drives"
            columns={mayStore ? [...COLUMNS, takeOff] : COLUMNS}
            rows={models}
            keyOf={({ model }) => model}
          />
        </div>
      )}
      {mayStore && (
        <Sheet of={sheet} sends="Put on the list" look="plain" label="A model" className="mt-3">
          <div className="grid items-start gap-3 sm:grid-cols-3">
            <TextField label="Model" name="model" required maxLength={64} />
            <SelectField
              label="Verdict"
              name="verdict"
              options={[
                { value: 'works', words: 'works' },
                { value: 'avoid', words: 'avoid' },
              ]}
            />
            <TextField label="Note" name="note" maxLength={400} />
          </div>
        </Sheet>
      )}
    </section>
  );
}
