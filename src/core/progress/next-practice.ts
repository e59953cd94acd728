/** What a criterion lets a student gain by practising it. */
export interface Practised {
  readonly id: string;
  readonly title: string;
  /** Reading that decides it, where one does: drills are found by it. */
  readonly reading: string | null;
  /** Share of its points lost in each attempt, the oldest first, with its weight in points of 100. */
  readonly lost: readonly number[];
  readonly points: number;
  readonly isCompetent: boolean;
  /** Exercises that ask for it: a skill rests on another only where one exercise asks for both. */
  readonly exercises: readonly string[];
}

export interface NextPractice {
  readonly id: string;
  readonly title: string;
  readonly reading: string | null;
  /** Points of 100 that are expected to be gained. */
  readonly gain: number;
  readonly lostOnAverage: number;
  readonly chance: number;
  /** Of the last five attempts, those that lost points here. */
  readonly times: number;
  readonly of: number;
  /** What is to be mastered first, where this rests on it. */
  readonly after: string | null;
  /** Days until it is tried again. */
  readonly inDays: number;
}

/** Order in which skills rest on one another: depth before outline, walls before finish line before polish. */
const ORDER: readonly (readonly [rank: number, starts: readonly string[]])[] = [
  [0, ['reduction', 'depth', 'clearance', 'gauge', 'planes', 'pulp', 'caries', 'neighbour', 'contact']],
  [
    1,
    [
      'outline',
      'box',
      'taper',
      'toc',
      'wall',
      'undercut',
      'draw',
      'divergence',
      'floor',
      'slice',
      'groove',
      'pin',
      'bevel',
      'resistance',
      'retention',
      'instrument',
    ],
  ],
  [2, ['margin', 'cavosurface', 'reversecurve', 'enamel', 'facial', 'gingiva']],
  [3, ['form', 'edge', 'surface', 'axiopulpal']],
];
const rankOf = (reading: string | null): number => ORDER.find(([, starts]) => starts.includes(reading?.split('.')[0] ?? ''))?.[0] ?? 1;
/** What sooner gives a gain when it is practised; finer work comes slower. */
const LEARNABLE = [1, 0.85, 0.7, 0.5] as const;
const LAST = 5;
/** Days until a skill is tried again: after a failure soon, after each success in a row twice as late. */
const SOON = 2;
const LATEST = 28;

/**
 * What to practise next, by what it would give.
 * @formula gain = mean points lost over the last five attempts × chance of losing them again, (times + 1) ÷ (attempts + 2) × learnability of its kind; what rests on a skill that is not mastered and
 *   costs more than a point comes after it; what was tried once comes after what was tried again; next date 2 days after a failure, doubled with every success in a row since, at most 28
 * @units points of 100; days
 * @source Laplace's rule for the chance; spacing after Cepeda and others 2006; learnability is the program's own order (docs/definitions.md)
 */
export function nextPractice(criteria: readonly Practised[], most = 3): NextPractice[] {
  const rows = criteria
    .filter((c) => c.lost.length > 0)
    .map((c) => {
      const last = c.lost.slice(-LAST);
      const times = last.filter((l) => l > 0.01).length;
      const lostOnAverage = (c.points * last.reduce((a, b) => a + b, 0)) / last.length;
      const chance = (times + 1) / (last.length + 2);
      let inARow = 0;
      while (inARow < last.length && last[last.length - 1 - inARow] <= 0.01) inARow++;
      const rank = rankOf(c.reading);
      return {
        id: c.id,
        title: c.title,
        reading: c.reading,
        rank,
        isCompetent: c.isCompetent,
        exercises: new Set(c.exercises),
        gain: lostOnAverage * chance * LEARNABLE[rank],
        lostOnAverage,
        chance,
        times,
        of: last.length,
        inDays: Math.min(LATEST, SOON * 2 ** inARow),
      };
    });
  const open = rows.filter((r) => !r.isCompetent && r.gain >= 1 && r.of > 1);
  const isFirst = (r: (typeof rows)[number]): (typeof rows)[number] | null =>
    open.filter((o) => o.rank < r.rank && [...o.exercises].some((e) => r.exercises.has(e))).sort((a, b) => b.gain - a.gain)[0] ?? null;
  return (
    rows
      .filter((r) => r.gain >= 0.5)
      .map((r) => ({ ...r, first: isFirst(r) }))
      // What was tried once says nothing of returning.
      .sort((a, b) => Number(a.first !== null) - Number(b.first !== null) || Number(a.of < 2) - Number(b.of < 2) || b.gain - a.gain)
      .slice(0, most)
      .map(({ first, rank: _r, isCompetent: _c, exercises: _e, ...r }) => ({ ...r, after: first?.title ?? null }))
  );
}
