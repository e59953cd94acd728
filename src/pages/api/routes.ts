import type { APIRoute } from 'astro';
import { ROUTES } from '#server/access/routes.ts';
import { endpoint } from '#server/http.ts';

/** Every route and method with its rule, for directors. */
export const GET: APIRoute = endpoint(async () =>
  Response.json({
    routes: Object.entries(ROUTES).flatMap(([route, methods]) =>
      Object.entries(methods).map(([method, rule]) => ({ route, method, ...rule })),
    ),
  }),
);
