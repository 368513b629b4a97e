'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useState, type ReactNode } from 'react';

const PAUSE_MS = 250;

interface Props {
  readonly label: string;
  readonly words: string;
  /** The address with these words in the place of "{words}". */
  readonly address: string;
  readonly bare: string;
}

/** Words that rows must have; the list follows while they are typed. */
export function FilterBox({ label, words, address, bare }: Props): ReactNode {
  const router = useRouter();
  const [typed, setTyped] = useState(words);
  useEffect(() => {
    if (typed.trim() === words) return undefined;
    const timer = setTimeout(() => {
      const wanted = typed.trim();
      router.replace(
        wanted === '' ? bare : address.replace(encodeURIComponent('{words}'), encodeURIComponent(wanted)),
        { scroll: false },
      );
    }, PAUSE_MS);
    return () => clearTimeout(timer);
  }, [typed, words, address, bare, router]);
  return (
    <input
      type="search"
      className="field w-60 max-sm:w-full"
      aria-label={label}
      placeholder={`${label}…`}
      value={typed}
      autoComplete="off"
      onChange={(event) => setTyped(event.target.value)}
    />
  );
}
