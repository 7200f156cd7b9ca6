/**
 * What makes the quick check work without a network: its page, its parts and the last answers are at hand. Everything
 * is asked of the network first, but for parts whose name changes with their content.
 */
/// <reference lib="webworker" />
import { CacheableResponsePlugin } from 'workbox-cacheable-response';
import { ExpirationPlugin } from 'workbox-expiration';
import { cleanupOutdatedCaches, precacheAndRoute } from 'workbox-precaching';
import { registerRoute } from 'workbox-routing';
import { NetworkFirst } from 'workbox-strategies';

declare const self: ServiceWorkerGlobalScope & { __WB_MANIFEST: { url: string; revision: string | null }[] };

const PAGES = 'bold-margin-check-pages';
const ANSWERS = 'bold-margin-check-answers';
/** Listings that are kept at hand. */
const MOST_ANSWERS = 1000;
const WAIT_SECONDS = 6;
const only200 = (): CacheableResponsePlugin => new CacheableResponsePlugin({ statuses: [200] });

precacheAndRoute(self.__WB_MANIFEST);
cleanupOutdatedCaches();

const ofCheck = (path: string): boolean => /^\/w\/[^/]+\/check$/.test(path);
registerRoute(
  ({ request, url }) => request.mode === 'navigate' && ofCheck(url.pathname),
  new NetworkFirst({
    cacheName: PAGES,
    networkTimeoutSeconds: WAIT_SECONDS,
    plugins: [only200(), new ExpirationPlugin({ maxEntries: 20 })],
    // The same page, whatever stands behind it in the address.
    matchOptions: { ignoreSearch: true, ignoreVary: true },
  }),
);
registerRoute(
  ({ request, url }) => request.method === 'GET' && /^\/w\/[^/]+\/check\/ask$/.test(url.pathname),
  new NetworkFirst({
    cacheName: ANSWERS,
    networkTimeoutSeconds: WAIT_SECONDS,
    plugins: [only200(), new ExpirationPlugin({ maxEntries: MOST_ANSWERS, purgeOnQuotaError: true })],
    matchOptions: { ignoreVary: true },
  }),
);

// What a device has at hand of a workspace is not the next person's.
registerRoute(
  ({ url }) => /^\/sign-out(?:\.data)?$/.test(url.pathname),
  async ({ request }) => {
    await Promise.all([caches.delete(PAGES), caches.delete(ANSWERS)]);
    return fetch(request);
  },
  'POST',
);

/** The installed check begins at the page that is at hand. */
registerRoute(
  ({ request, url }) => request.mode === 'navigate' && url.pathname === '/check',
  async ({ request }) => {
    try {
      return await fetch(request);
    } catch {
      const [page] = await (await caches.open(PAGES)).keys();
      return page === undefined ? Response.error() : Response.redirect(page.url);
    }
  },
);

/** Has a page at hand that was opened before this worker was there. */
async function keepPage(address: string): Promise<void> {
  const url = new URL(address);
  if (url.origin !== self.location.origin || !ofCheck(url.pathname)) return;
  const answer = await fetch(url.pathname, { credentials: 'same-origin', redirect: 'manual' });
  if (answer.status === 200) await (await caches.open(PAGES)).put(url.pathname, answer);
}

self.addEventListener('install', () => void self.skipWaiting());
self.addEventListener('activate', (event) => {
  event.waitUntil(
    (async () => {
      await self.clients.claim();
      // Pages of an earlier build name parts that are no longer here.
      const pages = await caches.open(PAGES);
      for (const { url } of await pages.keys()) await keepPage(url).catch(() => pages.delete(url));
    })(),
  );
});
self.addEventListener('message', (event) => {
  const data: unknown = event.data;
  if (data !== null && typeof data === 'object' && 'keep' in data && typeof data.keep === 'string')
    event.waitUntil(keepPage(data.keep).catch(() => undefined));
});
