import { useEffect, useRef, useState } from 'react';

export type Uploading = { readonly name: string; readonly share: number };

/**
 * Sends a file to an address as it lies on the disk, piece by piece, with its progress; `done` gets what the server
 * says.
 */
export function useUpload(
  to: string,
  done: (answer: { id: string; sameAs: string | null }) => void,
  broken: string,
  limit: { most: number; text: string } | null = null,
): {
  now: Uploading | null;
  error: string | null;
  send: (file: File, forList?: string) => void;
  stop: () => void;
} {
  const [now, setNow] = useState<Uploading | null>(null);
  const [error, setError] = useState<string | null>(null);
  const under = useRef<XMLHttpRequest | null>(null);
  const send = (file: File, forList?: string): void => {
    under.current?.abort();
    if (limit !== null && file.size > limit.most) {
      setNow(null);
      setError(limit.text);
      return;
    }
    // Only this old way of asking tells how far the sending is.
    const request = new XMLHttpRequest();
    under.current = request;
    setError(null);
    setNow({ name: file.name, share: 0 });
    request.upload.onprogress = (e) =>
      setNow({ name: file.name, share: e.total === 0 ? 1 : e.loaded / e.total });
    request.onload = () => {
      setNow(null);
      try {
        // The frame's data format wraps an answer given outside a page; a plain one is taken as it is.
        const answer = JSON.parse(request.responseText) as {
          id?: string;
          sameAs?: string | null;
          error?: string;
        };
        if (request.status === 200 && answer.id !== undefined)
          done({ id: answer.id, sameAs: answer.sameAs ?? null });
        else setError(answer.error ?? broken);
      } catch {
        setError(request.status === 413 ? request.responseText : broken);
      }
    };
    request.onerror = () => {
      setNow(null);
      setError(broken);
    };
    request.open(
      'POST',
      `${to}?name=${encodeURIComponent(file.name)}${forList === undefined ? '' : `&for=${forList}`}`,
    );
    request.setRequestHeader('content-type', 'application/octet-stream');
    request.send(file);
  };
  const stop = (): void => {
    under.current?.abort();
    setNow(null);
  };
  useEffect(() => () => under.current?.abort(), []);
  return { now, error, send, stop };
}

/** Whether a file is being dragged over the page; dropping it anywhere hands it over. */
export function useDrop(take: ((file: File) => void) | null): boolean {
  const [over, setOver] = useState(false);
  const taking = useRef(take);
  taking.current = take;
  useEffect(() => {
    let depth = 0;
    const files = (e: DragEvent): boolean => e.dataTransfer?.types.includes('Files') === true;
    const enter = (e: DragEvent): void => {
      if (!files(e) || taking.current === null) return;
      depth++;
      setOver(true);
    };
    const leave = (e: DragEvent): void => {
      if (files(e) && --depth <= 0) setOver(false);
    };
    const above = (e: DragEvent): void => {
      if (files(e)) e.preventDefault();
    };
    const drop = (e: DragEvent): void => {
      if (!files(e)) return;
      e.preventDefault();
      depth = 0;
      setOver(false);
      const file = e.dataTransfer?.files[0];
      if (file !== undefined) taking.current?.(file);
    };
    window.addEventListener('dragenter', enter);
    window.addEventListener('dragleave', leave);
    window.addEventListener('dragover', above);
    window.addEventListener('drop', drop);
    return () => {
      window.removeEventListener('dragenter', enter);
      window.removeEventListener('dragleave', leave);
      window.removeEventListener('dragover', above);
      window.removeEventListener('drop', drop);
    };
  }, []);
  return over;
}
