const ARRAYS = { Float64Array, Float32Array, Uint32Array, Int32Array, Uint8Array } as const;
type Numbers = InstanceType<(typeof ARRAYS)[keyof typeof ARRAYS]>;
/** Name of an array's type, where it begins behind the text, and how many numbers it has. */
type Place = readonly [keyof typeof ARRAYS, number, number];

const evenly = (bytes: number): number => 8 * Math.ceil(bytes / 8);
/** Bytes before the text: its length. */
const HEAD = 8;

/** Plain values as JSON, and behind it their arrays of numbers, each at a multiple of eight bytes. */
export function packed(value: unknown): Uint8Array {
  const arrays: Numbers[] = [];
  let size = 0;
  const text = JSON.stringify(value, (_, v: unknown) => {
    if (!ArrayBuffer.isView(v)) return v;
    const numbers = v as Numbers;
    const place: Place = [numbers.constructor.name as keyof typeof ARRAYS, size, numbers.length];
    arrays.push(numbers);
    size += evenly(numbers.byteLength);
    return { place };
  });
  const json = new TextEncoder().encode(text);
  let at = HEAD + evenly(json.length);
  const out = new Uint8Array(at + size);
  new DataView(out.buffer).setUint32(0, json.length, true);
  out.set(json, HEAD);
  for (const a of arrays) {
    out.set(new Uint8Array(a.buffer, a.byteOffset, a.byteLength), at);
    at += evenly(a.byteLength);
  }
  return out;
}

/** The values again; their arrays lie in these very bytes. */
export function unpacked(bytes: Uint8Array): unknown {
  const even = bytes.byteOffset % 8 === 0 ? bytes : bytes.slice();
  const length = new DataView(even.buffer, even.byteOffset).getUint32(0, true);
  const start = even.byteOffset + HEAD + evenly(length);
  return JSON.parse(new TextDecoder().decode(even.subarray(HEAD, HEAD + length)), (_, v) => {
    if (!Array.isArray(v?.place)) return v;
    const [type, at, count] = v.place as Place;
    return new ARRAYS[type](even.buffer as ArrayBuffer, start + at, count);
  });
}
