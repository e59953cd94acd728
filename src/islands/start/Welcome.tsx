import { useState } from 'react';
import { call } from '#components/call.ts';
import { START_WORDS } from '#words/course.ts';
import { signIn } from './sign-in.ts';

/** Sets a password by an invitation, and signs in with it. */
export function Welcome({ token, name, signInName }: { readonly token: string; readonly name: string; readonly signInName: string }) {
  const [password, setPassword] = useState('');
  const [error, setError] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const set = async (e: React.SyntheticEvent) => {
    e.preventDefault();
    setBusy(true);
    setError(null);
    try {
      await call('/api/welcome', { token, password });
      await signIn(signInName, password);
    } catch (f) {
      setError((f as Error).message);
      setBusy(false);
    }
  };
  return (
    <form className="panel grid w-full max-w-sm gap-3 p-6" onSubmit={(e) => void set(e)}>
      <h1 className="text-xl font-bold">{START_WORDS.welcome(name)}</h1>
      <p>{START_WORDS.welcomeLead(signInName)}</p>
      <input type="hidden" autoComplete="username" value={signInName} readOnly />
      <label className="grid gap-1">
        {START_WORDS.password}
        <input
          className="field"
          type="password"
          autoComplete="new-password"
          required
          value={password}
          aria-describedby="password-about"
          onChange={(e) => setPassword(e.target.value)}
        />
        <span id="password-about" className={error ? 'text-bad' : 'text-soft'} role={error ? 'alert' : undefined}>
          {error ?? START_WORDS.passwordHint}
        </span>
      </label>
      <button type="submit" className="act" disabled={busy}>
        {START_WORDS.set}
      </button>
    </form>
  );
}
