'use client';
import { wrap } from 'comlink';
import { useEffect, useRef, useState, type RefObject } from 'react';
import { serialsScanned } from '~/core/drive/serialsScanned';
import type { CodeReader } from './readerWorker';

/** Between two looks at what the camera shows: often enough for a hand, seldom enough for a battery. */
const LOOK_MS = 150;
/** Wide enough for the bars of a label a hand's breadth away. */
const WIDTH = 1280;

export interface Camera {
  readonly video: RefObject<HTMLVideoElement | null>;
  /** Why there is no picture, in a sentence. */
  readonly fault: string | null;
  readonly isOn: boolean;
}

/** The camera at the back, looked at again and again until a code with a serial in it is seen; given back when it is done with. */
export function useCamera(onSerials: (serials: readonly string[]) => void): Camera {
  const video = useRef<HTMLVideoElement>(null);
  const told = useRef(onSerials);
  const [fault, setFault] = useState<string | null>(null);
  const [isOn, setIsOn] = useState(false);
  useEffect(() => {
    told.current = onSerials;
  }, [onSerials]);
  useEffect(() => {
    let isOver = false;
    let stream: MediaStream | undefined;
    const worker = new Worker(new URL('./readerWorker.ts', import.meta.url), { type: 'module' });
    const reader = wrap<CodeReader>(worker);
    worker.onerror = () => setFault('The reader of codes did not start: type the serial.');
    const canvas = document.createElement('canvas');
    const look = async (): Promise<void> => {
      const seen = video.current;
      const drawn = canvas.getContext('2d', { willReadFrequently: true });
      if (seen && drawn && seen.videoWidth > 0) {
        canvas.width = seen.videoWidth;
        canvas.height = seen.videoHeight;
        drawn.drawImage(seen, 0, 0);
        const serials = serialsScanned(await reader.read(drawn.getImageData(0, 0, canvas.width, canvas.height)));
        if (isOver) return;
        if (serials.length > 0) told.current(serials);
      }
      if (!isOver) setTimeout(() => void look(), LOOK_MS);
    };
    navigator.mediaDevices
      .getUserMedia({ audio: false, video: { facingMode: { ideal: 'environment' }, width: { ideal: WIDTH } } })
      .then(async (given) => {
        stream = given;
        if (isOver || !video.current) return given.getTracks().forEach((track) => track.stop());
        video.current.srcObject = given;
        await video.current.play();
        setIsOn(true);
        return look();
      })
      .catch((error: unknown) => {
        const isDenied = error instanceof DOMException && error.name === 'NotAllowedError';
        if (!isOver)
          setFault(
            isDenied
              ? 'The browser was not allowed to use the camera: allow it in its settings, or type the serial.'
              : 'No camera was found: type the serial.',
          );
      });
    return () => {
      isOver = true;
      stream?.getTracks().forEach((track) => track.stop());
      worker.terminate();
    };
  }, []);
  return { video, fault, isOn };
}
