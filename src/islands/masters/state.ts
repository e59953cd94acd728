import type { DraftView, Marks, Stroke } from '#contract/master-draft.ts';
import type { ProposedName, Trust } from '#core/annotate/propose.ts';
import { add, cross, dot, scale, sub, unit, type Vec3 } from '#core/linalg/vec.ts';

export type Item = ProposedName;
export const ITEMS: readonly Item[] = ['parts', 'axis', 'mesial', 'gingivalMargin', 'cusps', 'grooves', 'ridges', 'contacts'];

type Trusts = NonNullable<DraftView['trust']>;
/** What a person can change and take back. */
export interface Drawn {
  readonly marks: Marks;
  readonly strokes: readonly Stroke[];
  readonly trust: Trusts;
}

export interface State {
  readonly drawn: Drawn;
  readonly past: readonly Drawn[];
  readonly future: readonly Drawn[];
  readonly item: Item;
  /** Key of the point in hand. */
  readonly point: string | null;
  readonly brush: null | { readonly part: number; readonly radius: number };
  readonly version: number;
  readonly saved: Drawn;
}

export type Act =
  | { readonly type: 'item'; readonly item: Item }
  | { readonly type: 'point'; readonly key: string | null }
  /** Moves the point in hand; `live` while it is still being dragged. */
  | { readonly type: 'move'; readonly key: string; readonly at: Vec3; readonly live?: boolean }
  | { readonly type: 'axis'; readonly axis: Vec3 }
  | { readonly type: 'turn'; readonly degrees: number }
  | { readonly type: 'right'; readonly item: Item }
  | { readonly type: 'conditions'; readonly conditions: NonNullable<Marks['conditions']> }
  | { readonly type: 'cej'; readonly line: readonly Vec3[] }
  | { readonly type: 'brush'; readonly brush: State['brush'] }
  | { readonly type: 'stroke'; readonly stroke: Stroke }
  | { readonly type: 'undo' }
  | { readonly type: 'redo' }
  | { readonly type: 'kept'; readonly drawn: Drawn; readonly version: number };

export const begin = (d: DraftView & { marks: Marks; trust: Trusts }): State => {
  const drawn = { marks: d.marks, strokes: d.strokes, trust: d.trust };
  const first = ITEMS.find((i) => d.trust[i] === 'ask') ?? ITEMS.find((i) => d.trust[i] === 'look') ?? 'cusps';
  return { drawn, past: [], future: [], item: first, point: null, brush: null, version: d.version, saved: drawn };
};

export interface MarkPoint {
  readonly key: string;
  readonly at: Vec3;
  readonly label: string;
}

/** The points of an item, each with a key that names its place in the marks. */
export function pointsOf(m: Marks, item: Item): MarkPoint[] {
  const line = (key: string, label: string, l: readonly Vec3[]): MarkPoint[] =>
    l.map((at, i) => ({ key: `${key}/${i}`, at, label: `${label}, ${i + 1} of ${l.length}` }));
  switch (item) {
    case 'cusps':
      return [
        ...m.cusps.map((c, i) => ({ key: `cusps/${i}`, at: c.at, label: `${c.name} (${c.role})` })),
        ...(['mesial', 'distal'] as const).flatMap((s) =>
          (m.neighbourCusps?.[s] ?? []).map((at, i) => ({ key: `cusps/${s}/${i}`, at, label: `${s} neighbour, tip ${i + 1}` })),
        ),
      ];
    case 'grooves':
      return m.grooves.flatMap((g, i) => line(`grooves/${i}`, g.name, g.line));
    case 'ridges':
      return (['mesial', 'distal', 'oblique'] as const).flatMap((r) => line(`ridges/${r}`, `${r} ridge`, m.ridges[r]));
    case 'contacts':
      return (['mesial', 'distal'] as const).flatMap((s) => {
        const at = m.contacts[s];
        return at ? [{ key: `contacts/${s}`, at, label: `${s} contact` }] : [];
      });
    case 'gingivalMargin':
      // Every third point is a handle; those between follow it.
      return m.gingivalMargin.flatMap((at, i) => (i % 3 === 0 ? [{ key: `gingivalMargin/${i}`, at, label: sideOf(m, at) }] : []));
    default:
      return [];
  }
}

const SIDES = ['facial', 'mesiofacial', 'mesial', 'mesiolingual', 'lingual', 'distolingual', 'distal', 'distofacial'];
/** Side of the tooth on which a point of its margin lies, with its direction round the axis. */
function sideOf(m: Marks, p: Vec3): string {
  const l = m.gingivalMargin;
  const d = [0, 1, 2].map((k) => p[k] - l.reduce((s, q) => s + q[k], 0) / l.length) as [number, number, number];
  const degrees = ((Math.atan2(dot(d, m.mesial), dot(d, m.facial)) * 180) / Math.PI + 360) % 360;
  return `${SIDES[Math.round(degrees / 45) % 8]}, ${degrees.toFixed(0)}°`;
}

/** The curves to draw, whatever item is in focus. */
export const curvesOf = (m: Marks): { item: Item; line: readonly Vec3[]; closed: boolean }[] => [
  { item: 'gingivalMargin', line: m.gingivalMargin, closed: true },
  ...(m.cej?.length ? [{ item: 'gingivalMargin' as const, line: m.cej, closed: false }] : []),
  ...m.grooves.map((g) => ({ item: 'grooves' as const, line: g.line, closed: false })),
  ...(['mesial', 'distal', 'oblique'] as const).map((r) => ({ item: 'ridges' as const, line: m.ridges[r], closed: false })),
];

/** The marks with one point elsewhere. */
export function withPoint(m: Marks, key: string, at: Vec3): Marks {
  const [kind, which, index] = key.split('/');
  const moved = (l: readonly Vec3[], i: number): Vec3[] => l.map((p, k) => (k === i ? at : p));
  switch (kind) {
    case 'cusps': {
      const n = m.neighbourCusps;
      if (n && (which === 'mesial' || which === 'distal'))
        return { ...m, neighbourCusps: { ...n, [which]: moved(n[which], Number(index)) } };
      return { ...m, cusps: m.cusps.map((c, i) => (i === Number(which) ? { ...c, at } : c)) };
    }
    case 'grooves':
      return { ...m, grooves: m.grooves.map((g, i) => (i === Number(which) ? { ...g, line: moved(g.line, Number(index)) } : g)) };
    case 'ridges':
      return { ...m, ridges: { ...m.ridges, [which]: moved(m.ridges[which as 'mesial'], Number(index)) } };
    case 'contacts':
      return { ...m, contacts: { ...m.contacts, [which]: at } };
    case 'gingivalMargin': {
      const l = m.gingivalMargin;
      const n = l.length;
      const i = Number(which);
      const d = sub(at, l[i]);
      return {
        ...m,
        gingivalMargin: l.map((p, k) => {
          const away = Math.min((k - i + n) % n, (i - k + n) % n);
          return away < 3 ? add(p, scale(d, 1 - away / 3)) : p;
        }),
      };
    }
    default:
      return m;
  }
}

/** Another long axis; mesial and facial stay as near to what they were as they can. */
function withAxis(m: Marks, axis: Vec3): Marks {
  const z = unit(axis);
  const x = unit(sub(m.mesial, scale(z, dot(m.mesial, z))));
  const y = cross(z, x);
  return { ...m, axis: z, mesial: x, facial: dot(y, m.facial) >= 0 ? y : scale(y, -1) };
}

/** Mesial and facial turned about the axis. */
function turned(m: Marks, degrees: number): Marks {
  const a = (degrees * Math.PI) / 180;
  const turn = (v: Vec3): Vec3 => {
    const x = cross(m.axis, v);
    const d = dot(m.axis, v) * (1 - Math.cos(a));
    return unit([0, 1, 2].map((k) => v[k] * Math.cos(a) + x[k] * Math.sin(a) + m.axis[k] * d) as [number, number, number]);
  };
  return { ...m, mesial: turn(m.mesial), facial: turn(m.facial) };
}

/** Marks that stand on no line of the checklist; one step to take back. */
const withMarks = (s: State, marks: Marks): State => ({
  ...s,
  drawn: { ...s.drawn, marks },
  past: [...s.past, s.drawn].slice(-200),
  future: [],
});

const itemOfKey = (key: string): Item => key.split('/')[0] as Item;

export function reduce(s: State, a: Act): State {
  const change = (drawn: Partial<Drawn>, item: Item, live = false): State => {
    const trust: Trusts = { ...s.drawn.trust, [item]: 'sure' satisfies Trust };
    const next = { ...s.drawn, ...drawn, trust };
    // One drag is one step to take back, however many places it passed.
    const past = s.future === LIVE ? s.past : [...s.past, s.drawn].slice(-200);
    return { ...s, drawn: next, past, future: live ? LIVE : [] };
  };
  switch (a.type) {
    case 'item':
      return { ...s, item: a.item, point: null, brush: a.item === 'parts' ? s.brush : null };
    case 'point':
      return { ...s, point: a.key };
    case 'move':
      return { ...change({ marks: withPoint(s.drawn.marks, a.key, a.at) }, itemOfKey(a.key), a.live), point: a.key };
    case 'axis':
      return change({ marks: withAxis(s.drawn.marks, a.axis) }, 'axis');
    case 'turn':
      return change({ marks: turned(s.drawn.marks, a.degrees) }, 'mesial');
    case 'right':
      return change({}, a.item);
    case 'conditions':
      return { ...s, drawn: { ...s.drawn, marks: { ...s.drawn.marks, conditions: a.conditions } } };
    case 'cej':
      return withMarks(s, { ...s.drawn.marks, cej: [...a.line] });
    case 'brush':
      return { ...s, brush: a.brush, item: a.brush ? 'parts' : s.item };
    case 'stroke':
      return change({ strokes: [...s.drawn.strokes, a.stroke] }, 'parts');
    case 'undo': {
      const before = s.past[s.past.length - 1];
      return before ? { ...s, drawn: before, past: s.past.slice(0, -1), future: [s.drawn, ...s.future] } : s;
    }
    case 'redo': {
      const [next, ...rest] = s.future;
      return next ? { ...s, drawn: next, past: [...s.past, s.drawn], future: rest } : s;
    }
    case 'kept':
      return { ...s, saved: a.drawn, version: a.version };
  }
}

/** Stands for the future while a point is being dragged: there is none, and the drag has begun. */
const LIVE: readonly Drawn[] = [];
