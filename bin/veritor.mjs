#!/usr/bin/env node
// Builds the command line when its sources changed since the last time, then runs it.
import path from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { ensureCli } from '../scripts/freshness.mjs';

const root = path.dirname(path.dirname(fileURLToPath(import.meta.url)));
await import(pathToFileURL(await ensureCli(root)).href);
