/** Address to go to after signing in: a path within this site, otherwise the first page. */
export function safeNext(asked: string): string {
  const base = 'http://127.0.0.1';
  // Browsers drop tabs and line breaks from an address, so the check drops them first.
  // biome-ignore lint/suspicious/noControlCharactersInRegex: control characters are what is looked for
  if (!asked.startsWith('/') || /[\u0000-\u001f\\]/.test(asked) || !URL.canParse(asked, base)) return '/';
  const url = new URL(asked, base);
  return url.origin === base && !url.pathname.startsWith('//') ? url.pathname + url.search : '/';
}
