'use client';
import { Command } from 'cmdk';
import { useState, type ReactNode, type Ref } from 'react';

interface Props {
  readonly name?: string;
  readonly label: string;
  readonly value: string;
  readonly onValue: (value: string) => void;
  readonly onBlur?: () => void;
  readonly known: readonly string[];
  readonly describedBy?: string;
  readonly isWrong?: boolean;
  readonly maxLength?: number;
  readonly inputRef?: Ref<HTMLInputElement>;
}

/** A line of text with what is known to choose from: arrow keys and Enter take one, anything else may be typed. */
export function ComboInput({
  name,
  label,
  value,
  onValue,
  onBlur,
  known,
  describedBy,
  isWrong = false,
  maxLength,
  inputRef,
}: Props): ReactNode {
  const [isOpen, setIsOpen] = useState(false);
  const [at, setAt] = useState('');
  // Nothing of the list is taken unless somebody walked to it: what was typed is what was meant.
  const [isWalked, setIsWalked] = useState(false);
  const typed = value.trim().toLowerCase();
  const fitting = known.filter((one) => one.toLowerCase().includes(typed) && one !== value).slice(0, 8);
  const take = (one: string): void => {
    onValue(one);
    setIsOpen(false);
    setIsWalked(false);
    setAt('');
  };
  return (
    <Command
      shouldFilter={false}
      label={label}
      value={isWalked ? at : ''}
      onValueChange={setAt}
      className="relative"
      onKeyDown={(event) => {
        if (event.key === 'Escape' && isOpen) {
          setIsOpen(false);
          event.stopPropagation();
        }
        if (event.key === 'Enter' && (!isOpen || !isWalked)) {
          event.preventDefault();
          event.currentTarget.closest('form')?.requestSubmit();
        }
        if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
          setIsOpen(true);
          setIsWalked(true);
        }
      }}
    >
      <Command.Input asChild value={value} onValueChange={onValue}>
        <input
          name={name}
          ref={inputRef}
          maxLength={maxLength}
          aria-describedby={describedBy}
          aria-invalid={isWrong}
          className="field"
          onFocus={() => setIsOpen(true)}
          onInput={() => {
            setIsOpen(true);
            setIsWalked(false);
          }}
          onBlur={() => {
            setIsOpen(false);
            onBlur?.();
          }}
        />
      </Command.Input>
      <Command.List
        hidden={!isOpen || fitting.length === 0}
        label={`Known: ${label}`}
        className="absolute top-full right-0 left-0 z-20 mt-px max-h-60 overflow-y-auto border border-line bg-surface py-1"
        onMouseDown={(event) => event.preventDefault()}
      >
        {fitting.map((one) => (
          <Command.Item
            key={one}
            value={one}
            onSelect={() => take(one)}
            className="cursor-pointer px-3 py-2 aria-selected:bg-chosen"
          >
            {one}
          </Command.Item>
        ))}
      </Command.List>
    </Command>
  );
}
