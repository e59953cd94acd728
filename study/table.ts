/** One reading beside its truth. */
export interface Comparison {
  readonly who: string;
  readonly name: string;
  readonly zone: string | null;
  readonly stat: string;
  readonly truth: number;
  readonly value: number | null;
  readonly U: number | null;
  readonly reason: string | null;
}

export interface Summary {
  readonly name: string;
  readonly stat: string;
  readonly n: number;
  readonly bias: number;
  readonly p95: number;
  readonly meanU: number;
  readonly inU: number;
  readonly refused: number;
}

export function summaries(rows: readonly Comparison[]): Summary[] {
  const groups = new Map<string, Comparison[]>();
  for (const r of rows) {
    const key = `${r.name}|${r.stat}`;
    groups.set(key, [...(groups.get(key) ?? []), r]);
  }
  return [...groups].map(([key, list]) => {
    const [name, stat] = key.split('|');
    const given = list.filter((r) => r.value !== null);
    const errors = given.map((r) => (r.value as number) - r.truth);
    const sizes = errors.map(Math.abs).sort((a, b) => a - b);
    return {
      name,
      stat,
      n: given.length,
      bias: errors.reduce((a, b) => a + b, 0) / (errors.length || 1),
      p95: sizes[Math.min(sizes.length - 1, Math.floor(0.95 * sizes.length))] ?? Number.NaN,
      meanU: given.reduce((s, r) => s + (r.U ?? 0), 0) / (given.length || 1),
      inU: given.filter((r) => Math.abs((r.value as number) - r.truth) <= (r.U ?? 0)).length / (given.length || 1),
      refused: (list.length - given.length) / list.length,
    };
  });
}

export function table(rows: readonly Comparison[]): string {
  const head =
    '| reading | stat | n | bias | 95 % of errors within | mean U | truths within ± U | not given |\n|---|---|---|---|---|---|---|---|';
  const percent = (v: number): string => `${(100 * v).toFixed(0)} %`;
  const lines = summaries(rows).map(
    (s) =>
      `| ${s.name} | ${s.stat} | ${s.n} | ${s.bias.toFixed(3)} | ${s.p95.toFixed(3)} | ${s.meanU.toFixed(3)} | ${percent(s.inU)} | ${percent(s.refused)} |`,
  );
  return [head, ...lines].join('\n');
}
