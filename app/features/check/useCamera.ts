/** The camera: opened where it is wanted, its pictures read one after another until a barcode is seen. */
import { useEffect, useRef, useState } from 'react';
import type { RefObject } from 'react';
import { readPicture } from './reader.ts';
import type { CodesSeen } from '../../../core/goods/seen.ts';

export type CameraTrouble = 'cameraRefused' | 'cameraMissing' | 'cameraBusy' | 'cameraDark' | 'scanFailed';
const PAUSE_MS = 120;
/** Pictures darker than this (of 255), so many one after another, are those of a covered camera. */
const DARK = 12;
const DARK_PICTURES = 12;

const BY_NAME: Readonly<Record<string, CameraTrouble>> = {
  NotAllowedError: 'cameraRefused',
  SecurityError: 'cameraRefused',
  NotReadableError: 'cameraBusy',
  AbortError: 'cameraBusy',
};

/** How light a picture is, 0 to 255, by a few of its points. */
function lightOf(video: HTMLVideoElement, canvas: HTMLCanvasElement): number {
  const [w, h] = [16, 12];
  canvas.width = w;
  canvas.height = h;
  const pen = canvas.getContext('2d', { willReadFrequently: true });
  if (pen === null) return 255;
  pen.drawImage(video, 0, 0, w, h);
  const { data } = pen.getImageData(0, 0, w, h);
  let sum = 0;
  for (let i = 0; i < data.length; i += 4) sum += Math.max(data[i] ?? 0, data[i + 1] ?? 0, data[i + 2] ?? 0);
  return sum / (w * h);
}

/** Shows the camera in a video while `isOn`, and tells what barcodes it sees. */
export function useCamera(
  isOn: boolean,
  onSeen: (seen: CodesSeen) => void,
): { video: RefObject<HTMLVideoElement | null>; trouble: CameraTrouble | null } {
  const video = useRef<HTMLVideoElement>(null);
  const [trouble, setTrouble] = useState<CameraTrouble | null>(null);
  const tell = useRef(onSeen);
  tell.current = onSeen;
  useEffect(() => {
    if (!isOn) return;
    let isOver = false;
    let stream: MediaStream | null = null;
    setTrouble(null);
    const fail = (what: CameraTrouble): void => {
      if (!isOver) setTrouble(what);
    };
    const look = async (): Promise<void> => {
      const canvas = document.createElement('canvas');
      let dark = 0;
      while (!isOver) {
        const el = video.current;
        if (el !== null && el.videoWidth > 0) {
          dark = lightOf(el, canvas) < DARK ? dark + 1 : 0;
          if (dark === DARK_PICTURES) fail('cameraDark');
          else if (dark === 0) setTrouble((was) => (was === 'cameraDark' ? null : was));
          const seen = await readPicture(await createImageBitmap(el));
          if (isOver) return;
          if (seen === null) return fail('scanFailed');
          if (seen.goods.length > 0 || seen.other !== null) tell.current(seen);
        }
        await new Promise((r) => setTimeout(r, PAUSE_MS));
      }
    };
    const start = async (): Promise<void> => {
      if (navigator.mediaDevices === undefined) return fail('cameraMissing');
      try {
        stream = await navigator.mediaDevices.getUserMedia({
          video: { facingMode: 'environment', width: { ideal: 1280 }, height: { ideal: 720 } },
        });
      } catch (e) {
        return fail(BY_NAME[(e as Error).name] ?? 'cameraMissing');
      }
      const el = video.current;
      if (isOver || el === null) return close();
      el.srcObject = stream;
      await el.play().catch(() => undefined);
      await look();
    };
    const close = (): void => {
      for (const track of stream?.getTracks() ?? []) track.stop();
    };
    void start();
    return () => {
      isOver = true;
      close();
    };
  }, [isOn]);
  return { video, trouble: isOn ? trouble : null };
}
