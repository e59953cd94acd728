import type { APIRoute } from 'astro';
import { endpoint } from '#server/http.ts';
import { app } from '#server/start.ts';
import { auditView } from '#server/view/current.ts';

/** The newest entries of the audit. */
export const GET: APIRoute = endpoint(async () => Response.json({ entries: await auditView((await app()).db) }));
