/// <reference lib="webworker" />
import { clientsClaim } from 'workbox-core';
import { cleanupOutdatedCaches, createHandlerBoundToURL, precacheAndRoute } from 'workbox-precaching';
import { NavigationRoute, registerRoute } from 'workbox-routing';
import { CacheFirst } from 'workbox-strategies';
import { answers } from './api/net';
import { send } from './offline/sender';
import { SEND_TAG } from './offline/state';
import { waiting } from './offline/store';

declare const self: ServiceWorkerGlobalScope & { __WB_MANIFEST: { url: string; revision: string | null }[] };

/** The page and its parts, without a network. */
precacheAndRoute(self.__WB_MANIFEST);
cleanupOutdatedCaches();
registerRoute(
  new NavigationRoute(createHandlerBoundToURL('/'), {
    denylist: [/^\/api\//, /^\/static\//, /^\/wall\//, /^\/practice\/[0-9a-f]{8}-/],
  }),
);

/** The packed core: its folder has the digest of what is in it. */
registerRoute(
  ({ url }) => url.pathname.startsWith('/bay/'),
  new CacheFirst({ cacheName: 'temper-core', matchOptions: { ignoreVary: true } }),
);

clientsClaim();
self.addEventListener('message', (event) => {
  if ((event.data as { type?: string } | null)?.type === 'SKIP_WAITING') void self.skipWaiting();
});

/** The network is back: what waits is sent, also where no page is open. Pages that are open then count again. */
async function sendHere(): Promise<void> {
  answers(true);
  const tabs = new BroadcastChannel('temper-bay');
  const told = () => tabs.postMessage('sent');
  await send({ done: told, all: () => Promise.resolve() }); // the next page fetches a fresh kit
  tabs.close();
  if ((await waiting()).some((row) => row.state === 'waits'))
    throw new Error('Not all is sent: the browser tries again.');
}

self.addEventListener('sync', (event) => {
  const sync = event as ExtendableEvent & { tag: string };
  if (sync.tag === SEND_TAG) sync.waitUntil(sendHere());
});
