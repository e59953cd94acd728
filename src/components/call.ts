/** Calls an endpoint; an answer that is not OK becomes an error with the server's sentence. */
export async function call<T>(url: string, payload?: unknown): Promise<T> {
  let response: Response;
  try {
    response = await fetch(
      url,
      payload === undefined ? {} : { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(payload) },
    );
  } catch {
    throw new Error('The server cannot be reached. Nothing was changed; try again when the connection is back.');
  }
  const answer = await response.json().catch(() => ({}));
  if (!response.ok) throw new Error(answer.message ?? `The server answered ${response.status}. Try again.`);
  return answer as T;
}
