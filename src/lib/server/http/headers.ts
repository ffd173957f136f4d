const always = {
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'same-origin',
  'x-frame-options': 'DENY',
  'cross-origin-opener-policy': 'same-origin',
  'cross-origin-resource-policy': 'same-origin',
  'permissions-policy': 'camera=(self), microphone=(), geolocation=()'
};

/** On every answer, refusals too: what browsers may not do with it. What says nothing of keeping is not kept. */
export function withHeaders(response: Response): Response {
  for (const [name, value] of Object.entries(always)) response.headers.set(name, value);
  if (!response.headers.has('cache-control')) response.headers.set('cache-control', 'no-store');
  return response;
}

/**
 * Something that never changes but that only who is signed in may see: the browser keeps it and asks each time whether
 * it still may show it.
 */
export const keptForOne = (tag: string): Record<string, string> => ({
  'cache-control': 'private, no-cache',
  vary: 'Cookie',
  etag: `"${tag}"`
});

/** The answer to somebody whose browser has it already; null for anybody else. */
export function unchanged(request: Request, tag: string): Response | null {
  const has = request.headers.get('if-none-match')?.split(/\s*,\s*/) ?? [];
  return has.some((each) => each.replace(/^W\//, '') === `"${tag}"`)
    ? new Response(null, { status: 304, headers: keptForOne(tag) })
    : null;
}

/** A path of our own to go on to, as somebody's address bar may have named it; Today for anything else. */
export function ownPath(asked: string | null, origin: string): string {
  // Browsers read a backslash as a slash, and leave tabs and line ends out.
  if (asked === null || !/^\/(?![/\\])[\x21-\x5b\x5d-\x7e]*$/.test(asked)) return '/';
  const target = new URL(asked, origin);
  return target.origin === origin ? target.pathname + target.search : '/';
}
