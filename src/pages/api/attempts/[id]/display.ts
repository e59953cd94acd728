import type { APIRoute } from 'astro';
import { sendMeasurementFile } from '#server/files-out.ts';
import { endpoint } from '#server/http.ts';

export const GET: APIRoute = endpoint((context) => sendMeasurementFile(context, 'display_sha256', 'application/octet-stream'));
