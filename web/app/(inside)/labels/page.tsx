import { readLabels } from '~/service/units/readLabels';
import { LabelSheet } from '~/web/parts/labels/LabelSheet';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Labels' };

export default insidePage('reader', async ({ app, query }) => {
  const text = (name: string): string | undefined => (typeof query[name] === 'string' ? query[name] : undefined);
  const labels = await readLabels(app, { unit: text('unit'), drive: text('drive') });
  return (
    <div className="p-5 print:p-0">
      <div className="no-print mb-4 max-w-[760px]">
        <h1 className="text-xl">Labels</h1>
        <p className="text-muted">
          For the unit, its bays and its drives. The code leads here and holds the serial; the last four are what is
          compared at the shelf. Print at full size, without fitting to the page.
        </p>
      </div>
      {labels.length === 0 ? (
        <p className="text-muted">
          There is nothing to label at this address. Open a unit or a drive and choose its labels there.
        </p>
      ) : (
        <LabelSheet labels={labels} />
      )}
    </div>
  );
});
