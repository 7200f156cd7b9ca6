/** Whether there is a network, and what makes the page work without one. */
import { useEffect, useSyncExternalStore } from 'react';

const watch = (tell: () => void): (() => void) => {
  window.addEventListener('online', tell);
  window.addEventListener('offline', tell);
  return () => {
    window.removeEventListener('online', tell);
    window.removeEventListener('offline', tell);
  };
};

/** Has the page and its parts kept on the device, so that it opens without a network. */
async function keepAtHand(): Promise<void> {
  const { serviceWorker } = navigator;
  if (serviceWorker === undefined) return;
  await serviceWorker.register('/check-worker.js', { scope: '/' });
  const { active } = await serviceWorker.ready;
  active?.postMessage({ keep: window.location.href });
}

export function useOffline(): boolean {
  useEffect(() => {
    // Where the browser allows no worker the page still works with a network.
    void keepAtHand().catch(() => undefined);
  }, []);
  return useSyncExternalStore(
    watch,
    () => !navigator.onLine,
    () => false,
  );
}
