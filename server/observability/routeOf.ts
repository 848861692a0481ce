import type { Request } from 'express';

/** Which route answers a request, as it is written in the code: without ids, names and queries. */
export function routeOf(req: Request): string {
  const { route } = req as { route?: { path?: unknown } };
  if (typeof route?.path !== 'string') return 'other';
  // where its router stands is told by baseUrl only until the router is left, as a refusal does
  const asked = req.originalUrl.split('?')[0]!.split('/');
  const own = route.path === '/' ? [] : route.path.split('/').slice(1);
  return [...asked.slice(0, asked.length - own.length), ...own].join('/');
}
