'use client';
import { useState, type ReactNode } from 'react';
import { LEFT_OUT } from '~/core/listing/leftOut';
import { Button } from '~/web/parts/form/Button';
import { Field } from '~/web/parts/form/Field';
import { Notice } from '~/web/parts/form/Notice';
import { ComparedLists } from './ComparedLists';
import { ListGiven } from './ListGiven';
import { Progress } from '~/web/parts/worker/Progress';
import { useComparing } from './useComparing';

/** Two lists of files, what counts for nothing, and what they come to. */
export function CompareLists(): ReactNode {
  const [texts, setTexts] = useState<readonly [string, string]>(['', '']);
  const [files, setFiles] = useState<readonly [File | null, File | null]>([null, null]);
  const [leaveOut, setLeaveOut] = useState(LEFT_OUT.join(', '));
  const { state, start, stop, comparer } = useComparing();
  const given = [files[0] ?? texts[0], files[1] ?? texts[1]] as const;
  const isReady = given.every((one) => typeof one !== 'string' || one.trim() !== '');
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-4">
      <form
        className="grid grid-cols-[minmax(0,1fr)] gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          if (isReady)
            start(
              given[0],
              given[1],
              leaveOut
                .split(',')
                .map((name) => name.trim())
                .filter((name) => name !== ''),
            );
        }}
      >
        <div className="grid gap-4 lg:grid-cols-2">
          <ListGiven
            label="Files at the old end"
            text={texts[0]}
            file={files[0]}
            onText={(text) => setTexts([text, texts[1]])}
            onFile={(file) => setFiles([file, files[1]])}
          />
          <ListGiven
            label="Files at the newer end"
            text={texts[1]}
            file={files[1]}
            onText={(text) => setTexts([texts[0], text])}
            onFile={(file) => setFiles([files[0], file])}
          />
        </div>
        <Field
          label="Left out: names of folders and files that count for nothing"
          value={leaveOut}
          autoComplete="off"
          onChange={(event) => setLeaveOut(event.target.value)}
        />
        <div className="flex flex-wrap items-center gap-3">
          <Button look="main" type="submit" className="min-h-11" disabled={!isReady || state.kind === 'busy'}>
            Compare
          </Button>
          {state.kind === 'busy' && <Progress label="Compared" share={state.share} onStop={stop} />}
        </div>
      </form>
      <div aria-live="polite">
        {state.kind === 'fault' && <Notice grave>{state.sentence}</Notice>}
        {state.kind === 'done' && <ComparedLists seen={state.seen} comparer={comparer()} />}
      </div>
    </div>
  );
}
