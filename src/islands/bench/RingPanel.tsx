import type { BenchView } from '#contract/views.ts';
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
    <section className="panel p-1" aria-label="Ring">
      <div className="flex items-center gap-1 px-1">
        {view.rings.map((r, i) => (
          <button key={r.id} type="button" className="quiet !min-h-[40px] !px-2" aria-pressed={i === ring} onClick={() => onRing(i)}>
            {r.title}
          </button>
        ))}
        {quantity && <span className="ml-auto text-[12px] text-soft">shaded: target band, ribbon: ± U; move over it to cut there</span>}
      </div>
      {quantity ? (
        <Ring
          title={quantity.title}
          unit={quantity.unit}
          digits={quantity.digits}
          points={view.curves[quantity.id]}
          band={quantity.band}
          U={quantity.U}
          azimuth={azimuth}
          sides={view.curves['strip.sides']}
          onAzimuth={onAzimuth}
        />
      ) : (
        <p className="p-4 text-soft">No readings round the tooth.</p>
      )}
    </section>
  );
}
