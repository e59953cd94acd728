const BODY = `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Not here · Veritor</title></head>
<body><main><h1>There is no such page</h1><p>Or it is not open to you. If it should be, ask the course director.</p><p><a href="/">Back to the beginning</a></p></main></body></html>`;

/** Answers an address that does not exist, or does not exist for the person who asks. */
export const notFound = (): Response =>
  new Response(BODY, {
    status: 404,
    headers: { 'Content-Type': 'text/html; charset=utf-8', 'Content-Security-Policy': "default-src 'none'; frame-ancestors 'none'" },
  });
