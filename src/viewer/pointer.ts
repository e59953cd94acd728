import type { ThreeEvent } from '@react-three/fiber';

type Place = readonly [number, number, number];

/** Pointer events without an instrument; a pressed button turns the tooth and hovers nothing. */
export function over(onOver: (p: Place | null) => void) {
  return {
    onPointerMove: (e: ThreeEvent<PointerEvent>) => e.buttons === 0 && onOver([e.point.x, e.point.y, e.point.z]),
    onPointerOut: () => onOver(null),
  };
}

/** What the scan answers to while an instrument is in the hand: pressed, it follows the pointer and the camera keeps still. */
export function hand(onPlace: (p: Place) => void, held: { current: boolean }, controls: { enabled: boolean } | null) {
  const place = (e: ThreeEvent<PointerEvent>): void => {
    e.stopPropagation();
    onPlace([e.point.x, e.point.y, e.point.z]);
  };
  const free = (): void => {
    held.current = false;
    if (controls) controls.enabled = true;
  };
  return {
    onPointerDown: (e: ThreeEvent<PointerEvent>) => {
      held.current = true;
      if (controls) controls.enabled = false;
      place(e);
    },
    onPointerMove: (e: ThreeEvent<PointerEvent>) => held.current && place(e),
    onPointerUp: free,
    onPointerLeave: free,
  };
}
