// Prepares a fresh clone: packages, and the steps named by the arguments (chromium, build).
import { ensureBuild, ensureChromium, ensurePackages } from './freshness.mjs';

ensurePackages();
if (process.argv.includes('chromium')) ensureChromium();
if (process.argv.includes('build')) await ensureBuild();
