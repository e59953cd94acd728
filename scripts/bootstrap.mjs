// Makes a fresh clone ready: packages, and what the arguments name (chromium, build).
import { ensureBuild, ensureChromium, ensurePackages } from './freshness.mjs';

ensurePackages();
if (process.argv.includes('chromium')) ensureChromium();
if (process.argv.includes('build')) await ensureBuild();
