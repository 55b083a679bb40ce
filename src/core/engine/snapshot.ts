/**
 * What an object remembers, as plain data: numbers, texts, lists, maps and typed arrays, whatever class holds them. Functions
 * are left out; they belong to whoever goes on from here.
 */
export type Kept = number | string | boolean | null | undefined | Numbers | Kept[] | Map<Kept, Kept> | { [field: string]: Kept };

const NUMBERS = { Float64Array, Int32Array, Uint32Array, Int16Array, Uint16Array, Int8Array, Uint8Array };
type Numbers = InstanceType<(typeof NUMBERS)[keyof typeof NUMBERS]>;

const isNumbers = (value: unknown): value is Numbers => ArrayBuffer.isView(value) && !(value instanceof DataView);
const isObject = (value: unknown): value is Record<string, unknown> => typeof value === 'object' && value !== null;

/** A copy of what `value` remembers, deep. */
export function keep(value: unknown): Kept {
  if (isNumbers(value)) return value.slice();
  if (Array.isArray(value)) return value.map(keep);
  if (value instanceof Map) return new Map([...(value as Map<Kept, unknown>)].map(([key, of]) => [key, keep(of)]));
  if (!isObject(value)) return value as Kept;
  const kept: { [field: string]: Kept } = {};
  for (const field of Object.keys(value)) if (typeof value[field] !== 'function') kept[field] = keep(value[field]);
  return kept;
}

/**
 * Makes `target` remember what was kept, in place: what it is of stays, what lies in it is copied. Throws where it is laid out
 * otherwise, which means that it was made for another plan.
 */
export function putBack(target: object, kept: Kept): void {
  if (!isObject(kept)) throw new Error('Nothing was kept.');
  const into = target as Record<string, unknown>;
  for (const [field, value] of Object.entries(kept)) {
    const there = into[field];
    if (isNumbers(value)) {
      if (!isNumbers(there) || there.length !== value.length) throw new Error(`What was kept as "${field}" is laid out otherwise.`);
      there.set(value);
    } else if (value instanceof Map) into[field] = keep(value);
    else if (isObject(value) && isObject(there) && Array.isArray(value) === Array.isArray(there)) {
      if (Array.isArray(there)) there.length = Object.keys(value).length;
      putBack(there, value);
    } else into[field] = keep(value);
  }
}

/** In place of what JSON has no word for. */
type Packed = { numbers: keyof typeof NUMBERS; at: number; length: number } | { map: [unknown, unknown][] } | { number: string } | { object: Record<string, unknown> };

/** As bytes: the length of a text (4 bytes, little-endian), the text (JSON), then the numbers of all typed arrays. */
export function packKept(kept: Kept): Uint8Array {
  const parts: Uint8Array[] = [];
  let at = 0;
  const plain = (value: Kept): unknown => {
    if (isNumbers(value)) {
      const packed: Packed = { numbers: nameOf(value), at, length: value.length };
      parts.push(new Uint8Array(value.buffer, value.byteOffset, value.byteLength));
      at += value.byteLength;
      return packed;
    }
    if (value instanceof Map) return { map: [...value].map(([key, of]) => [plain(key), plain(of)]) } satisfies Packed;
    if (Array.isArray(value)) return value.map(plain);
    if (typeof value === 'number' && !Number.isFinite(value)) return { number: String(value) } satisfies Packed;
    if (!isObject(value)) return value;
    return { object: Object.fromEntries(Object.entries(value).map(([field, of]) => [field, plain(of as Kept)])) } satisfies Packed;
  };
  const text = new TextEncoder().encode(JSON.stringify(plain(kept) ?? null));
  const bytes = new Uint8Array(4 + text.length + at);
  new DataView(bytes.buffer).setUint32(0, text.length, true);
  bytes.set(text, 4);
  let to = 4 + text.length;
  for (const part of parts) {
    bytes.set(part, to);
    to += part.length;
  }
  return bytes;
}

/** Throws where the bytes are no such thing. */
export function unpackKept(bytes: Uint8Array): Kept {
  const length = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength).getUint32(0, true);
  const from = 4 + length;
  const whole = (packed: unknown): Kept => {
    if (Array.isArray(packed)) return packed.map(whole);
    if (!isObject(packed)) return packed as Kept;
    const of = packed as Partial<Record<string, unknown>>;
    if (typeof of.number === 'string') return Number(of.number);
    if (of.map) return new Map((of.map as [unknown, unknown][]).map(([key, value]) => [whole(key), whole(value)]));
    if (of.object) return Object.fromEntries(Object.entries(of.object).map(([field, value]) => [field, whole(value)]));
    const Kind = NUMBERS[of.numbers as keyof typeof NUMBERS];
    const at = from + (of.at as number);
    // A copy, since a typed array must begin at a whole number of its elements.
    return new Kind(bytes.slice(at, at + (of.length as number) * Kind.BYTES_PER_ELEMENT).buffer);
  };
  return whole(JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes.subarray(4, from))));
}

function nameOf(numbers: Numbers): keyof typeof NUMBERS {
  return (Object.keys(NUMBERS) as (keyof typeof NUMBERS)[]).find((name) => numbers instanceof NUMBERS[name])!;
}
