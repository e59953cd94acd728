/** Signs in and opens the first page. */
export async function signIn(name: string, password: string): Promise<void> {
  const r = await fetch('/api/sign-in', { method: 'POST', body: new URLSearchParams({ name, password, next: '/' }), redirect: 'follow' });
  window.location.assign(r.ok ? '/' : '/sign-in');
}
