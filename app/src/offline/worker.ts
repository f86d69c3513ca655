import { clientsClaim } from "workbox-core";
import { ExpirationPlugin } from "workbox-expiration";
import {
  cleanupOutdatedCaches,
  createHandlerBoundToURL,
  precacheAndRoute,
  type PrecacheEntry,
} from "workbox-precaching";
import { NavigationRoute, registerRoute } from "workbox-routing";
import { NetworkFirst, NetworkOnly } from "workbox-strategies";
import { isKept, KEPT_HEADER, mayBeKept } from "../kit/kept";

/**
 * Stands between the application and the server on the device. The application itself is kept whole, so that it opens and reloads without
 * a network; of the server's answers the last ones are kept, and given only when the server does not answer, marked with when they came.
 */
declare const self: { skipWaiting(): Promise<void>; FILES: PrecacheEntry[] };

/** A page that is asked for is waited for so long, s: then the one that is kept is shown. */
const PAGE_SECONDS = 4;
/** So many answers are kept; those that were not asked for the longest go first. */
const MOST_ANSWERS = 200;

void self.skipWaiting();
clientsClaim();
cleanupOutdatedCaches();
precacheAndRoute(self.FILES);

const page = createHandlerBoundToURL("/index.html");
const asked = new NetworkOnly({ networkTimeoutSeconds: PAGE_SECONDS });
registerRoute(
  new NavigationRoute(async (options) => asked.handle(options).catch(() => page(options)), { denylist: [/^\/api\//] }),
);

registerRoute(
  ({ request, url }) => url.origin === location.origin && mayBeKept(request.method, url.pathname, request.headers),
  new NetworkFirst({
    cacheName: "answers",
    plugins: [
      new ExpirationPlugin({ maxEntries: MOST_ANSWERS, purgeOnQuotaError: true }),
      {
        cacheWillUpdate: ({ response }) => Promise.resolve(isKept(response.status, response.headers) ? response : null),
        cachedResponseWillBeUsed({ cachedResponse }) {
          if (!cachedResponse) return Promise.resolve(null);
          const headers = new Headers(cachedResponse.headers);
          headers.set(KEPT_HEADER, headers.get("date") ?? "");
          const { status, statusText } = cachedResponse;
          return Promise.resolve(new Response(cachedResponse.body, { status, statusText, headers }));
        },
      },
    ],
  }),
);
