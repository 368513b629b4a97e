import { useId, type ReactNode } from 'react';
import { Select } from '~/web/parts/form/Select';
import { DescribeUnit } from './DescribeUnit';
import type { Profile } from '~/core/platform/profile';

interface Props {
  readonly profiles: readonly Profile[];
  readonly profile: Profile;
  readonly choices: readonly number[];
  readonly bays: number;
  readonly spares: number;
  readonly each: boolean;
  readonly mayStore: boolean;
  readonly onChange: (change: { profile?: string; bays?: number; spares?: number; each?: boolean }) => void;
  readonly onDescribed: (profile: string) => void;
}

const MOST_SPARES = 8;

/** What the drives go into: the family, how many bays, how many spares wait beside. */
export function BenchSettings({
  profiles,
  profile,
  choices,
  bays,
  spares,
  each,
  mayStore,
  onChange,
  onDescribed,
}: Props): ReactNode {
  return (
    <div className="flex flex-wrap gap-x-3 gap-y-2">
      <Choice
        label="Family"
        title={profile.summary}
        value={profile.id}
        onChange={(id) => onChange({ profile: id })}
        options={profiles.map(({ id, name }) => [id, name])}
      />
      <Choice
        label="Bays"
        value={String(bays)}
        onChange={(count) => onChange({ bays: Number(count) })}
        options={(choices.length > 0 ? choices : [bays]).map((count) => [String(count), String(count)])}
      />
      <Choice
        label="Spares"
        value={String(spares)}
        onChange={(count) => onChange({ spares: Number(count) })}
        options={Array.from({ length: Math.max(MOST_SPARES, spares) + 1 }, (_, count) => [
          String(count),
          count === 0 ? 'none' : String(count),
        ])}
      />
      {spares > 0 && (
        <Choice
          label="wait for"
          value={each ? 'group' : 'pool'}
          onChange={(scope) => onChange({ each: scope === 'group' })}
          options={[
            ['pool', 'the pool'],
            ['group', 'each group'],
          ]}
        />
      )}
      {mayStore && <DescribeUnit like={profile} onDescribed={onDescribed} />}
    </div>
  );
}

function Choice({
  label,
  title,
  value,
  options,
  onChange,
}: {
  readonly label: string;
  readonly title?: string;
  readonly value: string;
  readonly options: readonly (readonly [string, string])[];
  readonly onChange: (value: string) => void;
}): ReactNode {
  const id = useId();
  return (
    <div className="flex items-center gap-2" title={title}>
      <label htmlFor={id} className="text-muted">
        {label}
      </label>
      <Select
        id={id}
        value={value}
        onValue={onChange}
        options={options.map(([key, words]) => ({ value: key, words }))}
        className="w-auto max-w-[196px] min-w-[72px]"
      />
    </div>
  );
}
