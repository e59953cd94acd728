import { Dialog } from 'radix-ui';

const KEYS: readonly (readonly [string, string])[] = [
  ['↑ ↓', 'line before, line after'],
  ['e', 'next line to check'],
  ['Enter', 'confirm the measured level'],
  ['3 2 1 0', 'give a level of your own'],
  ['h', 'read it by hand: probe, gauge, wax, explorer, eye'],
  ['k', 'comment, with the course’s phrases'],
  ['x y', 'critical error: does not count or not made, made'],
  ['z', 'all critical errors looked at, none found'],
  ['s', 'sign'],
  ['r', 'release to the student'],
  ['n b', 'next attempt, attempt before'],
  ['o f m l d', 'look from occlusal, facial, mesial, lingual, distal'],
  ['g a c p', 'ghost of the master, opposing arch, depth colours, names of the parts'],
  ['i u', 'probe, gauge: set down on the tooth'],
  ['t', 'turn the ring to its next reading'],
  ['v', 'section or plan'],
  ['?', 'this list'],
];

export function Keys({ onClose }: { onClose: () => void }) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ink/30" />
        <Dialog.Content
          className="panel fixed left-1/2 top-1/2 w-[420px] -translate-x-1/2 -translate-y-1/2 p-5 shadow-lg"
          aria-describedby={undefined}
        >
          <Dialog.Title className="mb-3 text-lg font-bold">Keys of the Bench</Dialog.Title>
          <dl className="grid grid-cols-[110px_1fr] gap-y-1.5">
            {KEYS.map(([k, what]) => (
              <div key={k} className="contents">
                <dt className="figure font-semibold">{k}</dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
          <Dialog.Close className="act mt-4">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
