import type { ProfileView } from '#contract/profiles.ts';
import type { BenchView } from '#contract/views.ts';
import { azimuthOf } from '#core/linalg/sectors.ts';
import { BENCH } from '#words/bench.ts';
import { placeWords } from '#words/sides.ts';
import { Across } from '../../charts/Across.tsx';
import { Plan } from '../../charts/Plan.tsx';
import { Section } from '../../charts/Section.tsx';
import { OVER_FLOOR } from './tools.ts';
import type { Tools } from './useTools.ts';

interface Props {
  readonly view: Pick<BenchView, 'curves' | 'drawn'>;
  readonly mesialSign: number | null;
  readonly side: 'section' | 'plan';
  readonly onSide: (side: 'section' | 'plan') => void;
  readonly cut: number;
  readonly pin: readonly number[] | null;
  readonly pair: readonly [ProfileView, ProfileView] | null;
  readonly tools: Tools;
  readonly opposing: boolean;
  readonly onTurn: (degrees: number) => void;
  readonly onPlan: (azimuth: number | null) => void;
}

/** Beside the picture: the plan, the section through the axis, or, with the probe set down, a cut through its place. */
export function Side({ view, mesialSign, side, onSide, cut, pin, pair, tools, opposing, onTurn, onPlan }: Props) {
  const hasPlan = (view.curves['plan.outline']?.length ?? 0) > 0;
  const { probed, cut: through } = tools;
  const across = tools.tool === 'probe' && probed && through && mesialSign !== null ? { probed, through, mesialSign } : null;
  const shown = across ? 'across' : side === 'plan' && hasPlan ? 'plan' : 'section';
  return (
    <section
      className="panel flex h-[380px] max-[899px]:order-3 min-h-0 flex-col min-[900px]:h-auto"
      aria-label={{ across: BENCH.cutThroughProbe, plan: BENCH.planOfOutline, section: BENCH.section }[shown]}
    >
      <div className="flex min-h-[40px] items-center border-b border-line px-1">
        {across ? (
          (['mesiodistal', 'faciolingual'] as const).map((k) => (
            <button
              key={k}
              type="button"
              className="quiet !border-0 !px-2"
              aria-pressed={tools.across === k}
              onClick={() => tools.setAcross(k)}
            >
              {k}
            </button>
          ))
        ) : hasPlan ? (
          (['plan', 'section'] as const).map((k) => (
            <button key={k} type="button" className="quiet !border-0 !px-2" aria-pressed={side === k} onClick={() => onSide(k)}>
              {k === 'plan' ? BENCH.plan : BENCH.section}
            </button>
          ))
        ) : (
          <h2 className="px-1 font-semibold">{BENCH.section}</h2>
        )}
        {shown === 'section' && (
          <span className="figure ml-auto px-1 text-[12px] text-soft">
            {placeWords(cut)} {Math.round(cut)}°
          </span>
        )}
      </div>
      <div className="min-h-0 flex-1 p-1">
        {across ? (
          <Across
            lines={across.through.lines}
            z={across.probed.at[2]}
            wide={across.through.wide}
            over={OVER_FLOOR}
            ends={
              across.through.across === 'faciolingual'
                ? ['lingual', 'facial']
                : across.mesialSign > 0
                  ? ['distal', 'mesial']
                  : ['mesial', 'distal']
            }
            removed={across.probed.depth}
            opposing={opposing}
          />
        ) : shown === 'plan' ? (
          mesialSign !== null && (
            <Plan
              curves={view.curves}
              mesialSign={mesialSign}
              azimuth={cut}
              pin={pin}
              onPoint={(p) => onPlan(p && azimuthOf(p[0], p[1]))}
            />
          )
        ) : pair ? (
          <Section
            near={pair[0]}
            far={pair[1]}
            names={[placeWords(cut), placeWords(cut + 180)]}
            dimensions={view.drawn.colours.includes('axial')}
            opposing={opposing}
            onTurn={onTurn}
          />
        ) : null}
      </div>
      <p className="px-2 pb-1 text-[12px] text-soft">{shown === 'plan' ? BENCH.planLegend : BENCH.sectionLegend(opposing)}</p>
    </section>
  );
}
