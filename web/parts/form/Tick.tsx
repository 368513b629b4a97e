'use client';
import { Check } from 'lucide-react';
import { Checkbox, Switch as RadixSwitch } from 'radix-ui';
import { useId, type ReactNode, type Ref } from 'react';

interface Props {
  readonly words: ReactNode;
  readonly name?: string;
  readonly value?: string;
  readonly isOn: boolean;
  readonly onChange: (isOn: boolean) => void;
  readonly isOff?: boolean;
  readonly boxRef?: Ref<HTMLButtonElement>;
}

/** A box to tick, with its words. */
export function Tick({ words, name, value, isOn, onChange, isOff = false, boxRef }: Props): ReactNode {
  const id = useId();
  return (
    <div className="flex min-h-9 items-center gap-2 max-sm:min-h-11">
      <Checkbox.Root
        id={id}
        checked={isOn}
        onCheckedChange={(now) => onChange(now === true)}
        disabled={isOff}
        {...(name === undefined ? {} : { name })}
        {...(value === undefined ? {} : { value })}
        {...(boxRef === undefined ? {} : { ref: boxRef })}
        className="grid size-[18px] shrink-0 place-items-center rounded-[2px] border border-muted bg-surface data-[state=checked]:border-action data-[state=checked]:bg-action data-[state=checked]:text-on-action"
      >
        <Checkbox.Indicator>
          <Check size={14} strokeWidth={3} aria-hidden />
        </Checkbox.Indicator>
      </Checkbox.Root>
      <label htmlFor={id}>{words}</label>
    </div>
  );
}

/** Something that is on or off at once, with its words. */
export function Switch({
  words,
  isOn,
  onChange,
  isOff = false,
}: Pick<Props, 'words' | 'isOn' | 'onChange' | 'isOff'>): ReactNode {
  const id = useId();
  return (
    <div className="flex min-h-9 items-center gap-2 max-sm:min-h-11">
      <RadixSwitch.Root
        id={id}
        checked={isOn}
        onCheckedChange={onChange}
        disabled={isOff}
        className="relative h-5 w-9 shrink-0 rounded-[2px] border border-muted bg-surface data-[state=checked]:border-action data-[state=checked]:bg-action"
      >
        <RadixSwitch.Thumb className="block size-4 translate-x-px rounded-[1px] bg-muted data-[state=checked]:translate-x-[17px] data-[state=checked]:bg-on-action" />
      </RadixSwitch.Root>
      <label htmlFor={id}>{words}</label>
    </div>
  );
}
