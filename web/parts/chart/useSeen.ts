'use client';
import { useEffect, useRef, useState, type RefObject } from 'react';

/** Whether an element has come near what is seen of the page, and stays true; printing sees all of it. */
export function useSeen(): [RefObject<HTMLDivElement | null>, boolean] {
  const place = useRef<HTMLDivElement>(null);
  const [isSeen, setIsSeen] = useState(false);
  useEffect(() => {
    if (!place.current) return;
    const see = (): void => setIsSeen(true);
    const watch = new IntersectionObserver((entries) => entries.some(({ isIntersecting }) => isIntersecting) && see(), {
      rootMargin: '200px',
    });
    watch.observe(place.current);
    window.addEventListener('beforeprint', see);
    return () => {
      watch.disconnect();
      window.removeEventListener('beforeprint', see);
    };
  }, []);
  return [place, isSeen];
}
