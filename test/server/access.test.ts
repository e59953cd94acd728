import { readdirSync, readFileSync, statSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { decideAccess } from '#server/access/gate.ts';
import { ROUTES } from '#server/access/routes.ts';
import { ACCESS, type Person } from '#server/access/table.ts';
import { safeNext } from '#server/account/next.ts';
import { COOKIE, signIn, signOut, whoIs } from '#server/account/sign-in.ts';
import { SignInThrottle } from '#server/account/throttle.ts';
import { sql } from '#server/database/port.ts';
import { Refused } from '#server/errors.ts';
import { openSchool, PEOPLE, type School, SOUND, STRANGER } from '../helpers/school.ts';

const { maren, ines, piet, greta, hugo } = PEOPLE;
let school: School;
let attempt: number;
beforeAll(async () => {
  school = await openSchool();
  attempt = await school.measured(greta, SOUND);
  await school.app.db.run(sql`insert into stored_file (sha256, size_bytes) values (${'0'.repeat(64)}, 1) on conflict do nothing`);
  await school.app.db.run(
    sql`insert into master_draft (id, course_id, name, tooth, arch_sha256, arch_name, factor, checks, triangles, display_sha256, made_by)
        values ('draft-1', 'c1', 'Arch', '46', ${'0'.repeat(64)}, 'arch.stl', 1, '[]', 1, ${'0'.repeat(64)}, 'A1')`,
  );
});
afterAll(() => school.close());

const files = (dir: string): string[] =>
  readdirSync(dir).flatMap((n) => (statSync(path.join(dir, n)).isDirectory() ? files(path.join(dir, n)) : [path.join(dir, n)]));

describe('every route of the file tree', () => {
  const routes = files('src/pages')
    .filter((f) => /\.(astro|ts)$/.test(f))
    .map((f) => {
      const route = `/${path
        .relative('src/pages', f)
        .replace(/\.(astro|ts)$/, '')
        .replace(/(^|\/)index$/, '')}`;
      const text = readFileSync(f, 'utf8');
      const methods = f.endsWith('.astro')
        ? ['GET']
        : [...text.matchAll(/export const (GET|POST|PUT|PATCH|DELETE|ALL)\b/g)].map((m) => m[1]);
      return [route.length > 1 ? route.replace(/\/$/, '') : route, methods] as const;
    });
  it('has a rule for each of its methods, and there is no rule for anything else', () => {
    expect(Object.fromEntries(routes.map(([r, m]) => [r, [...m].sort()]))).toEqual(
      Object.fromEntries(Object.entries(ROUTES).map(([r, m]) => [r, Object.keys(m).sort()])),
    );
  });
  it('is not open to strangers, but for the few that must be', () => {
    const open = Object.entries(ROUTES).flatMap(([r, m]) =>
      Object.entries(m).flatMap(([method, rule]) => (rule.kind === 'open' ? [`${method} ${r}`] : [])),
    );
    expect(open.sort()).toEqual([
      'GET /404',
      'GET /api/health',
      // By a link that only its receiver has.
      'GET /first-start/[token]',
      'GET /sign-in',
      'GET /welcome/[token]',
      'POST /api/first-start',
      'POST /api/sign-in',
      'POST /api/sign-out',
      'POST /api/welcome',
    ]);
  });
});

/** Kind of refusal, or "yes". */
async function ask(who: Person | null, route: string, method: string, params: Record<string, string>): Promise<string> {
  try {
    await decideAccess(school.app.db, who, route, method, params);
    return 'yes';
  } catch (e) {
    if (e instanceof Refused) return e.kind;
    throw e;
  }
}
/** What stands in an address, as its own rule names it: something of the one course, so that nothing is refused only for not being there. */
function paramsOf(route: string, method: string): Record<string, string> {
  const rule = ROUTES[route][method];
  if (rule.kind === 'student') return { [rule.param]: 'H07' };
  if (rule.kind !== 'on') return {};
  const id = { attempt: String(attempt), scan: '1', sitting: 'w1', course: 'c1', exercise: 'crown-16', draft: 'draft-1' }[rule.subject];
  return { [rule.param]: id };
}

describe('the matrix of routes and roles', () => {
  const rows = Object.entries(ROUTES).flatMap(([route, methods]) => Object.keys(methods).map((method) => [route, method] as const));
  it('a person of another course and a person signed out see nothing of it', async () => {
    for (const [route, method] of rows) {
      const rule = ROUTES[route][method];
      if (rule.kind !== 'on' && rule.kind !== 'student') continue;
      expect(await ask(null, route, method, paramsOf(route, method)), `${method} ${route}`).toBe('signed-out');
      expect(await ask(STRANGER, route, method, paramsOf(route, method)), `${method} ${route}`).toBe('not-there');
    }
  });
  it('a student changes nothing and sees nothing of the own attempt before it is released', async () => {
    for (const [route, method] of rows) {
      const rule = ROUTES[route][method];
      if (rule.kind !== 'on') continue;
      // What a course shows to everybody of it is no secret of others.
      if ((ACCESS[rule.action] as { student?: string }).student === 'course') continue;
      // One's own work page is there from the start; what it shows of a result is told in work.test.ts.
      const isOwn = rule.action === 'work.see' || rule.action === 'work.assess';
      if (!isOwn) expect(await ask(greta, route, method, paramsOf(route, method)), `${method} ${route}`).not.toBe('yes');
      expect(await ask(hugo, route, method, paramsOf(route, method)), `${method} ${route}`).not.toBe('yes');
    }
  });
  it('a student sees the own trail and no other', async () => {
    expect(await ask(greta, '/trail/[student]', 'GET', { student: 'H07' })).toBe('yes');
    expect(await ask(greta, '/trail/[student]', 'GET', { student: 'H08' })).toBe('not-there');
    expect(await ask(piet, '/trail/[student]', 'GET', { student: 'H07' })).toBe('not-there');
  });
  it('an assistant brings and steers scans, sees the tray’s pictures, and does not grade', async () => {
    const yes = (await Promise.all(rows.map(async ([r, m]) => [`${m} ${r}`, await ask(piet, r, m, paramsOf(r, m))] as const)))
      .filter(([, a]) => a === 'yes')
      .map(([r]) => r);
    expect(yes.filter((r) => /attempts\/\[id\]/.test(r))).toEqual(['GET /api/attempts/[id]/picture']);
    expect(yes).toEqual(expect.arrayContaining(['POST /api/sittings/[id]/scans', 'POST /api/scans/[id]/assign', 'GET /tray/[sitting]']));
  });
  it('equals docs/access.md (npx vitest -u writes it)', async () => {
    const who = {
      'signed out': null,
      'another course': STRANGER,
      student: greta,
      'another student': hugo,
      assistant: piet,
      instructor: ines,
      director: maren,
    };
    const lines = await Promise.all(
      rows.map(async ([route, method]) => {
        const answers = await Promise.all(Object.values(who).map((w) => ask(w, route, method, paramsOf(route, method))));
        return `| ${method} \`${route}\` | ${answers.map((a) => (a === 'yes' ? '**yes**' : a === 'not-allowed' ? 'no' : '–')).join(' | ')} |`;
      }),
    );
    const head = ['Endpoint', ...Object.keys(who)];
    const table = [`| ${head.join(' | ')} |`, `|${head.map(() => ' --- ').join('|')}|`, ...lines].join('\n');
    await expect(
      `# Who may ask what\n\nWritten by the route test (\`test/server/access.test.ts\`): every endpoint and page asked as each of these, with an attempt of\nthe student’s own that is not released. **yes**: answered; no: refused; –: not there, or to be signed in for.\n\n${table}\n`,
    ).toMatchFileSnapshot('../../docs/access.md');
  });
  it('once released the student sees it, and the other does not', async () => {
    const { answer } = (await school.call('/api/sittings/[id]/tray', ines, { id: 'w1' })) as {
      answer: { rows: { attempt_id: number; seen: string }[] };
    };
    const seen = answer.rows.find((r) => r.attempt_id === attempt)?.seen;
    expect((await school.call('/api/attempts/[id]/sign', ines, { id: String(attempt) }, { seen })).status).toBe(200);
    await school.call('/api/attempts/[id]/release', ines, { id: String(attempt) }, {});
    expect(await ask(greta, '/bench/[attempt]', 'GET', { attempt: String(attempt) })).toBe('yes');
    expect(await ask(hugo, '/bench/[attempt]', 'GET', { attempt: String(attempt) })).toBe('not-there');
  });
  it.each(['x', '1e9', '-1', '99999999999', '1.5', ''])('an attempt “%s” is not there', async (id) =>
    expect(await ask(maren, '/api/attempts/[id]/grades', 'GET', { id })).toBe('not-there'),
  );
  it('a route or method without a rule is not there, whoever asks', async () => {
    expect(await ask(maren, '/api/secrets', 'GET', {})).toBe('not-there');
    expect(await ask(maren, '/api/attempts/[id]/sign', 'DELETE', { id: '1' })).toBe('not-there');
  });
  it('directors can read the table', async () => {
    expect((await school.call('/api/routes', maren, {})).status).toBe(200);
    expect((await school.call('/api/routes', ines, {})).status).toBe(403);
  });
});

describe('requests from elsewhere', () => {
  it.each(['http://elsewhere.test', 'null', 'nonsense'])('with the origin %s are turned away', async (origin) =>
    expect((await school.call('/api/attempts/[id]/sign', ines, { id: String(attempt) }, {}, { origin })).status).toBe(403),
  );
  it('that are no JSON, or too large, are refused as such', async () => {
    const post = (type: string) => school.call('/api/attempts/[id]/judge', ines, { id: String(attempt) }, {}, { 'content-type': type });
    expect((await post('text/plain')).status).toBe(415);
    const large = { line: 'width', reason: 'x'.repeat(1_200_000) };
    expect((await school.call('/api/attempts/[id]/judge', ines, { id: String(attempt) }, large)).status).toBe(413);
  });
});

describe('signing in', () => {
  it('gives a token for the right password, and nobody for a wrong one', async () => {
    const done = await signIn(school.app.db, ' Ines ', 'harbour-lane');
    expect(done?.person).toEqual(ines);
    expect(await whoIs(school.app.db, done?.token as string)).toEqual(ines);
    expect(await signIn(school.app.db, 'ines', 'harbour')).toBeNull();
    expect(await signIn(school.app.db, 'nobody', 'harbour-lane')).toBeNull();
    await signOut(school.app.db, done?.token as string);
    expect(await whoIs(school.app.db, done?.token as string)).toBeNull();
    expect(COOKIE).toBe('veritor');
  });
  it.each([
    ['/bench/3', '/bench/3'],
    ['/tray/w1?x=1', '/tray/w1?x=1'],
    ['//elsewhere.test', '/'],
    ['/\t/elsewhere.test', '/'],
    ['/\n//elsewhere.test', '/'],
    ['/\\elsewhere.test', '/'],
    ['http://elsewhere.test', '/'],
    ['javascript:alert(1)', '/'],
    ['', '/'],
  ])('after it %j leads to %s', (asked, expected) => expect(safeNext(asked)).toBe(expected));
  it('JSON, or a form that is too large, is refused and not an error of the server', async () => {
    expect((await school.call('/api/sign-in', null, {}, { name: 'ines' })).status).toBe(415);
    const form = new FormData();
    form.append('name', 'x'.repeat(20_000));
    expect((await school.call('/api/sign-in', null, {}, form)).status).toBe(413);
  });
  it('too many wrong passwords must wait the stated time; another name need not', async () => {
    const throttle = new SignInThrottle();
    for (let i = 0; i < 9; i++) await throttle.failed('Ines', '127.0.0.1');
    await expect(throttle.check(' ines', '10.0.0.1')).rejects.toMatchObject({ kind: 'wait', details: { wait_s: expect.any(Number) } });
    await expect(throttle.check('maren', '127.0.0.1')).resolves.toBeUndefined();
    for (let i = 0; i < 60; i++) await throttle.failed(`guess ${i}`, '127.0.0.1');
    await expect(throttle.check('maren', '127.0.0.1')).rejects.toMatchObject({ kind: 'wait' });
  });
});
