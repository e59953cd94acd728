import node from '@astrojs/node';
import react from '@astrojs/react';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig, passthroughImageService } from 'astro/config';

export default defineConfig({
  output: 'server',
  adapter: node({ mode: 'standalone' }),
  integrations: [react()],
  image: { service: passthroughImageService() },
  devToolbar: { enabled: false },
  // Requests from other sites are refused in src/server/http.ts, for JSON and forms alike.
  security: { checkOrigin: false },
  // Every page carries a content security policy with the digests of its scripts: no other script runs.
  experimental: {
    csp: {
      directives: [
        "default-src 'self'",
        "img-src 'self' data: blob:",
        "connect-src 'self'",
        "worker-src 'self' blob:",
        "font-src 'self' data:",
        "form-action 'self'",
        "base-uri 'none'",
        "object-src 'none'",
      ],
      styleDirective: { resources: ["'self'", "'unsafe-inline'"] },
    },
  },
  vite: {
    plugins: [tailwindcss()],
    optimizeDeps: { exclude: ['@electric-sql/pglite', 'manifold-3d'] },
    ssr: { external: ['@electric-sql/pglite', 'manifold-3d', 'piscina', '@node-rs/argon2', 'pngjs', 'meshoptimizer'] },
  },
});
