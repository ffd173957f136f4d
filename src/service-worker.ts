/// <reference types="@sveltejs/kit" />
/// <reference no-default-lib="true"/>
/// <reference lib="esnext" />
/// <reference lib="webworker" />
import { build, files, version } from '$service-worker';

// The phone's page opens without a network: what it is made of is kept, and the page itself as it was last seen.
const scope = globalThis.self as unknown as ServiceWorkerGlobalScope;
const cacheName = `yonder-phone-${version}`;
const pagePath = '/phone';
const kept = new Set([...build, ...files]);

scope.addEventListener('install', (event) => {
  event.waitUntil(
    caches
      .open(cacheName)
      .then((cache) => cache.addAll([...kept, pagePath]))
      .then(() => scope.skipWaiting())
  );
});

scope.addEventListener('activate', (event) => {
  const others = async () => {
    for (const name of await caches.keys()) if (name !== cacheName) await caches.delete(name);
    await scope.clients.claim();
  };
  event.waitUntil(others());
});

async function page(request: Request): Promise<Response> {
  const cache = await caches.open(cacheName);
  try {
    const answer = await fetch(request);
    if (answer.ok) await cache.put(pagePath, answer.clone());
    return answer;
  } catch {
    return (await cache.match(pagePath)) ?? Response.error();
  }
}

scope.addEventListener('fetch', (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== 'GET' || url.origin !== location.origin) return;
  if (request.mode === 'navigate' && url.pathname === pagePath) event.respondWith(page(request));
  else if (kept.has(url.pathname))
    event.respondWith(caches.match(request).then((known) => known ?? fetch(request)));
});
