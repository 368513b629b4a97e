'use client';
import { useId, type ReactNode } from 'react';
import type { Needs, RankedLayout } from '~/core/appraisal/recommend';
import { layoutKey, layoutName } from '~/core/layout/layoutName';
import { Select } from '~/web/parts/form/Select';
import { Tick } from '~/web/parts/form/Tick';

interface Props {
  readonly needs: Needs;
  readonly onChange: (change: Partial<Needs>) => void;
  readonly ranking: readonly RankedLayout[];
  readonly chosen: string;
  readonly onChoose: (key: string) => void;
}

/** What matters, said in figures; the layout that fits best, why, and what would have to change for another to win. */
export function MattersTab({ needs, onChange, ranking, chosen, onChoose }: Props): ReactNode {
  const [best] = ranking;
  const current = ranking.find(({ appraisal }) => layoutKey(appraisal.layout) === chosen);
  const meeting = ranking.filter(({ verdicts }) => verdicts.every(({ met }) => met)).length;
  const meetsAll = best?.verdicts.every(({ met }) => met) === true;
  return (
    <div className="grid gap-3">
      <div className="grid grid-cols-2 gap-2">
        <Figure label="must survive" value={needs.survive} onChange={(survive) => onChange({ survive })} />
        <Figure
          label="TB needed now"
          value={needs.terabytesNow}
          onChange={(terabytesNow) => onChange({ terabytesNow })}
        />
        <Figure
          label="% more each year"
          value={Math.round(needs.growthPerYear * 100)}
          onChange={(percent) => onChange({ growthPerYear: percent / 100 })}
        />
        <Figure label="years" value={needs.years} onChange={(years) => onChange({ years })} />
        <Figure
          label="at most, each usable TB"
          value={needs.mostCentsPerTB === null ? null : needs.mostCentsPerTB / 100}
          onChange={(price) => onChange({ mostCentsPerTB: price === 0 ? null : price * 100 })}
        />
        <div className="grid content-start gap-0.5">
          <span className="text-sm text-muted" aria-hidden>
            used for
          </span>
          <Select
            label="used for"
            value={needs.work}
            onValue={(work) => onChange({ work: work as Needs['work'] })}
            options={[
              { value: 'large-files', words: 'large files, archive' },
              { value: 'many-small', words: 'many small, random' },
            ]}
          />
        </div>
      </div>
      <Tick
        words="must go on working while a drive is rebuilt"
        isOn={!needs.mayStandStill}
        onChange={(isOn) => onChange({ mayStandStill: !isOn })}
      />
      {best && (
        <div className="border-t border-line pt-3" aria-live="polite" data-recommendation>
          <p>
            <strong>
              {meetsAll ? 'Fits best' : 'Comes closest'}: {layoutName(best.appraisal.layout)}.
            </strong>{' '}
            {layoutKey(best.appraisal.layout) !== chosen && (
              <button
                type="button"
                className="text-action underline"
                onClick={() => onChoose(layoutKey(best.appraisal.layout))}
              >
                Show it
              </button>
            )}
          </p>
          <Reasons of={best} />
          <p className="text-sm text-muted">
            {meetsAll
              ? meeting === 1
                ? 'It alone meets every need. Had others met them too, '
                : `Of the ${String(meeting)} that meet every need, `
              : 'No layout of these drives meets every need. Of those that survive what was asked, or come closest, '}
            it {needs.work === 'many-small' ? 'does the most small writes a second' : 'gives the most space'}; where two
            are equal the smaller chance of loss decides.
          </p>
        </div>
      )}
      {current?.wouldWinIf != null && (
        <div className="border-t border-line pt-3">
          <p>
            <strong>{layoutName(current.appraisal.layout)}</strong> would win {current.wouldWinIf}.
          </p>
          <Reasons of={current} />
        </div>
      )}
    </div>
  );
}

function Reasons({ of }: { readonly of: RankedLayout }): ReactNode {
  return (
    <ul className="my-1">
      {of.verdicts.map(({ met, sentence }) => (
        <li key={sentence} className={met ? '' : 'font-semibold text-thinned'}>
          {met ? '✓' : '✗'} <span className="sr-only">{met ? 'met:' : 'not met:'}</span> {sentence}
        </li>
      ))}
    </ul>
  );
}

function Figure({
  label,
  value,
  onChange,
}: {
  readonly label: string;
  readonly value: number | null;
  readonly onChange: (value: number) => void;
}): ReactNode {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="text-sm text-muted">
        {label}
      </label>
      <input
        id={id}
        type="number"
        min={0}
        step="any"
        value={value ?? ''}
        placeholder="no matter"
        className="field"
        onChange={(event) => onChange(Math.max(0, Number(event.target.value) || 0))}
      />
    </div>
  );
}
