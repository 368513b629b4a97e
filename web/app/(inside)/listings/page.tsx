import { CompareLists } from '~/web/parts/listing/CompareLists';
import { insidePage } from '~/web/server/insidePage';

export const metadata = { title: 'Compare two lists of files' };

export default insidePage('reader', () =>
  Promise.resolve(
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4 p-5 max-sm:p-4">
      <div>
        <h1 className="text-xl">Compare two lists of files</h1>
        <p className="max-w-[760px] text-muted">
          A copy that stopped half-way looks like a copy. Make a list of the same folder at both ends and hold them
          against each other here: checksums with their paths, sizes with their paths, a long listing of every folder, a
          sheet with a head, or the manifest of a bag. The lists stay in this browser.
        </p>
      </div>
      <CompareLists />
    </div>,
  ),
);
