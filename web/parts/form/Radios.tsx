'use client';
import { RadioGroup } from 'radix-ui';
import { useId, type ReactNode, type Ref } from 'react';

/** One of the lines to choose from. */
export interface RadioOption {
  readonly value: string;
  readonly words: ReactNode;
  /** What it means, in small below it. */
  readonly detail?: ReactNode;
  readonly isOff?: boolean;
}

interface Props {
  readonly legend: string;
  readonly name?: string;
  readonly options: readonly RadioOption[];
  readonly value: string;
  readonly onValue: (value: string) => void;
  readonly fault?: string | undefined;
  readonly isOff?: boolean;
  readonly firstRef?: Ref<HTMLButtonElement>;
  readonly className?: string;
}

/** One of a few, each a line to tap with its words; arrow keys move. */
export function Radios({
  legend,
  name,
  options,
  value,
  onValue,
  fault,
  isOff = false,
  firstRef,
  className = '',
}: Props): ReactNode {
  const id = useId();
  return (
    <div className={className}>
      <p id={id} className="mb-1 font-semibold">
        {legend}
      </p>
      <RadioGroup.Root
        aria-labelledby={id}
        aria-describedby={fault === undefined ? undefined : `${id}-fault`}
        value={value}
        onValueChange={onValue}
        disabled={isOff}
        {...(name === undefined ? {} : { name })}
        className="grid gap-2"
      >
        {options.map((option, i) => (
          <label
            key={option.value}
            className={`flex min-h-9 items-start gap-3 border bg-surface px-3 py-2 max-sm:min-h-11 ${option.isOff === true ? 'text-muted' : 'cursor-pointer'} ${value === option.value ? 'border-action' : 'border-line'}`}
          >
            <RadioDot
              value={option.value}
              isOff={option.isOff ?? false}
              {...(i === 0 && firstRef !== undefined ? { dotRef: firstRef } : {})}
            />
            <span>
              {option.words}
              {option.detail !== undefined && <span className="block text-sm text-muted">{option.detail}</span>}
            </span>
          </label>
        ))}
      </RadioGroup.Root>
      {fault !== undefined && (
        <p id={`${id}-fault`} className="mt-1 text-sm font-semibold text-thinned">
          {fault}
        </p>
      )}
    </div>
  );
}

/** The dot of one of them, for where they do not stand in lines; a `RadioGroup.Root` is around it. */
export function RadioDot({
  value,
  isOff = false,
  dotRef,
}: {
  readonly value: string;
  readonly isOff?: boolean;
  readonly dotRef?: Ref<HTMLButtonElement>;
}): ReactNode {
  return (
    <RadioGroup.Item
      value={value}
      disabled={isOff}
      {...(dotRef === undefined ? {} : { ref: dotRef })}
      className="mt-0.5 grid size-4 shrink-0 place-items-center rounded-full border border-muted bg-surface"
    >
      <RadioGroup.Indicator className="size-2 rounded-full bg-action" />
    </RadioGroup.Item>
  );
}
