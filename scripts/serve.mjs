// The built server with time limits of its own: Node's defaults wait five minutes for a request that never ends.
process.env.ASTRO_NODE_AUTOSTART = 'disabled';
const { startServer } = await import('../dist/server/entry.mjs');
const { server } = startServer().server;
// ms: for a request's header; for the whole request, a scan of 300 MB over a slow line included; without any byte moving.
server.headersTimeout = 15_000;
server.requestTimeout = 300_000;
server.setTimeout(120_000);
