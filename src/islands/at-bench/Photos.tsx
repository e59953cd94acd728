import { Camera, X } from 'lucide-react';
import { useEffect, useMemo, useRef } from 'react';
import { Problem } from '#components/Problem.tsx';
import type { StepPhoto } from '#contract/at-bench.ts';
import { AT_BENCH } from '#words/at-bench.ts';
import { photoAddress } from './photo-address.ts';
import { usePhotos, type WaitingPhoto } from './photos.ts';

interface Props {
  readonly attempt: number;
  readonly step: string;
  readonly photos: readonly StepPhoto[];
  readonly isOwn: boolean;
  readonly onSent: () => Promise<void>;
}

/** What the student photographed at this step: taken with the phone's camera, kept until it is sent, seen by whoever grades. */
export function Photos({ attempt, step, photos, isOwn, onSent }: Props) {
  const { waiting, problem, add, drop, remove } = usePhotos(attempt, onSent);
  const input = useRef<HTMLInputElement>(null);
  const here = photos.filter((p) => p.step === step);
  const coming = waiting.filter((w) => w.step === step);
  if (!isOwn && here.length === 0) return null;
  return (
    <section className="panel grid gap-2 p-4" aria-label={AT_BENCH.photos}>
      <h2 className="font-bold">{AT_BENCH.photos}</h2>
      {here.length + coming.length > 0 && (
        <ul className="grid grid-cols-2 gap-2 min-[700px]:grid-cols-3">
          {here.map((p, i) => (
            <Tile key={p.id} onAway={isOwn ? () => void remove(p.id) : null}>
              <a href={photoAddress(attempt, p.id)} target="_blank" rel="noreferrer" data-photo={p.id}>
                <img
                  src={photoAddress(attempt, p.id)}
                  alt={AT_BENCH.photoOf(i + 1)}
                  loading="lazy"
                  className="aspect-4/3 w-full object-cover"
                />
              </a>
            </Tile>
          ))}
          {coming.map((w) => (
            <Tile key={w.key} onAway={() => void drop(w.key)}>
              <Waiting photo={w} />
            </Tile>
          ))}
        </ul>
      )}
      <Problem text={problem} />
      {isOwn && (
        <>
          <input
            ref={input}
            type="file"
            hidden
            accept="image/*"
            capture="environment"
            aria-label={AT_BENCH.takePhoto}
            onChange={(e) => {
              const file = e.target.files?.[0];
              e.target.value = '';
              if (file) void add(step, file);
            }}
          />
          <button
            type="button"
            className="quiet inline-flex !min-h-12 items-center justify-center gap-2"
            onClick={() => input.current?.click()}
          >
            <Camera size={18} aria-hidden /> {AT_BENCH.takePhoto}
          </button>
        </>
      )}
    </section>
  );
}

function Tile({ onAway, children }: { readonly onAway: (() => void) | null; readonly children: React.ReactNode }) {
  return (
    <li className="relative border border-line">
      {children}
      {onAway && (
        <button
          type="button"
          className="quiet absolute top-1 right-1 grid !min-h-11 min-w-11 place-items-center !p-0"
          aria-label={AT_BENCH.photoAway}
          onClick={onAway}
        >
          <X size={18} aria-hidden />
        </button>
      )}
    </li>
  );
}

function Waiting({ photo }: { readonly photo: WaitingPhoto }) {
  const address = useMemo(() => URL.createObjectURL(photo.picture), [photo.picture]);
  useEffect(() => () => URL.revokeObjectURL(address), [address]);
  return (
    <figure data-photo-waits={photo.why === null ? 'yes' : 'refused'}>
      <img src={address} alt="" className="aspect-4/3 w-full object-cover opacity-60" />
      <figcaption role="status" className={`p-1 text-[13px] ${photo.why === null ? 'text-soft' : 'text-bad'}`}>
        {photo.why === null ? AT_BENCH.photoWaits : `${AT_BENCH.refused}: ${photo.why}`}
      </figcaption>
    </figure>
  );
}
