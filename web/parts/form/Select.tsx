'use client';
import { Check, ChevronDown } from 'lucide-react';
import { Select as Radix } from 'radix-ui';
import type { ReactNode, Ref } from 'react';

export interface Option {
  readonly value: string;
  readonly words: string;
  /** What it means, in small below it. */
  readonly detail?: string | undefined;
  readonly isOff?: boolean;
}

/** Radix keeps the empty value for "nothing chosen": a choice of nothing is written like this. */
const NOTHING = '–';
const inward = (value: string): string => (value === '' ? NOTHING : value);
const outward = (value: string): string => (value === NOTHING ? '' : value);

interface Props {
  readonly id?: string;
  readonly name?: string | undefined;
  readonly label?: string | undefined;
  readonly options: readonly Option[];
  readonly value: string;
  readonly onValue: (value: string) => void;
  readonly onBlur?: () => void;
  readonly isOff?: boolean;
  readonly describedBy?: string;
  readonly labelledBy?: string;
  readonly isWrong?: boolean;
  readonly className?: string;
  readonly triggerRef?: Ref<HTMLButtonElement>;
}

/** One of several, in a list that opens: arrow keys, first letters, Enter. What is not among the options is shown as nothing chosen. */
export function Select({
  id,
  name,
  label,
  options,
  value,
  onValue,
  onBlur,
  isOff = false,
  describedBy,
  labelledBy,
  isWrong = false,
  className = '',
  triggerRef,
}: Props): ReactNode {
  const chosen = options.find((one) => one.value === value);
  return (
    <Radix.Root
      value={chosen ? inward(value) : ''}
      onValueChange={(next) => next !== '' && onValue(outward(next))}
      disabled={isOff}
      {...(name === undefined ? {} : { name })}
    >
      <Radix.Trigger
        {...(id === undefined ? {} : { id })}
        {...(triggerRef === undefined ? {} : { ref: triggerRef })}
        {...(onBlur === undefined ? {} : { onBlur })}
        aria-label={label}
        aria-labelledby={labelledBy}
        aria-describedby={describedBy}
        aria-invalid={isWrong}
        data-value={value}
        className={`field flex items-center justify-between gap-2 text-left disabled:opacity-60 ${className}`}
      >
        <span className="truncate">
          <Radix.Value placeholder="Choose…">{chosen?.words}</Radix.Value>
        </span>
        <ChevronDown size={16} aria-hidden className="shrink-0 text-muted" />
      </Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          position="popper"
          sideOffset={2}
          className="z-50 max-h-[min(360px,var(--radix-select-content-available-height))] max-w-[calc(100vw-24px)] min-w-[var(--radix-select-trigger-width)] overflow-hidden rounded-[2px] border border-line bg-surface text-ink"
        >
          <Radix.Viewport>
            {options.map((option) => (
              <Radix.Item
                key={option.value}
                value={inward(option.value)}
                textValue={option.words}
                disabled={option.isOff ?? false}
                className="flex min-h-9 cursor-pointer items-start gap-2 px-3 py-2 outline-none data-[disabled]:cursor-default data-[disabled]:text-muted data-[highlighted]:bg-chosen max-sm:min-h-11"
              >
                <span className="w-4 shrink-0 pt-0.5">
                  <Radix.ItemIndicator>
                    <Check size={16} aria-hidden />
                  </Radix.ItemIndicator>
                </span>
                <span>
                  <Radix.ItemText>{option.words}</Radix.ItemText>
                  {option.detail !== undefined && <span className="block text-sm text-muted">{option.detail}</span>}
                </span>
              </Radix.Item>
            ))}
          </Radix.Viewport>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
