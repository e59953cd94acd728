import type { BenchView } from '#contract/views.ts';
import { within } from '#core/score/verdict.ts';
import { BENCH } from '#words/bench.ts';
import { Ring } from '../../charts/Ring.tsx';

/** One quantity round the tooth or along the outline, chosen among those that the measurement has. */
export function RingPanel({
  view,
  ring,
  azimuth,
  onRing,
  onAzimuth,
}: {
  readonly view: Pick<BenchView, 'rings' | 'curves'>;
  readonly ring: number;
  readonly azimuth: number;
  readonly onRing: (index: number) => void;
  readonly onAzimuth: (at: number) => void;
}) {
  const quantity = view.rings[ring];
  return (
    <section className="panel max-[899px]:order-4 p-1" aria-label="Ring">
      <div className="flex items-center gap-1 px-1">
        {view.rings.length > 0 && (
          <select
            className="field !w-auto font-semibold"
            aria-label={BENCH.ring}
            value={ring}
            onChange={(e) => onRing(Number(e.target.value))}
          >
            {view.rings.map((r, i) => (
              <option key={r.id} value={i}>
                {r.title}
              </option>
            ))}
          </select>
        )}
        {quantity && (
          <span className="ml-auto text-right text-[12px] text-soft">
            {BENCH.ringLegend(quantity.band[0] !== null || quantity.band[1] !== null)}
          </span>
        )}
      </div>
      {quantity ? (
        <Ring
          title={quantity.title}
          unit={quantity.unit}
          digits={quantity.digits}
          points={view.curves[quantity.id]}
          band={quantity.band}
          out={(value) => !within(value, { lo: quantity.band[0], hi: quantity.band[1] })}
          U={quantity.U}
          azimuth={azimuth}
          sides={view.curves['strip.sides']}
          stretch={quantity.stretch}
          onAzimuth={onAzimuth}
        />
      ) : (
        <p className="p-4 text-soft">{BENCH.noCurves}</p>
      )}
    </section>
  );
}
