import { seeded } from '@dyepot/camera/src/random.ts';

/** Numbers and words that parsers trip over. */
const awkward = [
  'NaN',
  'Infinity',
  '-1',
  '0',
  '1e999',
  '-0',
  '99999999999999999999',
  '0x10',
  '""',
  'null',
  '[]',
  '{}',
  '\u0000',
  '😀',
  '%s',
  '../..',
  '__proto__',
];
const awkwardValues: unknown[] = [
  null,
  [],
  {},
  -1,
  0,
  1e308,
  '',
  'x'.repeat(5000),
  '\u0000',
  '\ud800',
  true,
  { __proto__: 1 },
  [[[[]]]],
  Number.MAX_SAFE_INTEGER,
];

export interface Mutant {
  bytes: Uint8Array;
  /** what was done, for the log */
  how: string;
  /** where it was cut; null when it was not */
  cutAt: number | null;
}

/** Changes bytes here and there: flips, zeros, cuts, repeats, swaps, or puts awkward words for numbers. Seeded. */
export function mutateBytes(seed: Uint8Array, number: number): Mutant {
  const random = seeded(number * 7919 + seed.length),
    pick = (n: number): number => Math.floor(random() * n),
    kind = pick(7);
  let bytes = Uint8Array.from(seed);
  const at = pick(bytes.length),
    length = 1 + pick(Math.max(1, bytes.length >> 3));
  if (kind === 0) for (let i = 0; i <= pick(24); i++) bytes[pick(bytes.length)] = pick(256);
  else if (kind === 1) bytes.fill(pick(2) * 255, at, at + length);
  else if (kind === 2) return { bytes: bytes.slice(0, at), how: `cut at ${at}`, cutAt: at };
  else if (kind === 3)
    bytes = Uint8Array.from([...bytes.subarray(0, at), ...bytes.subarray(at, at + Math.min(length, 5000)), ...bytes.subarray(at)]);
  else if (kind === 4) bytes = Uint8Array.from([...bytes.subarray(0, at), ...bytes.subarray(Math.min(bytes.length, at + length))]);
  else if (kind === 5) {
    // the head is where a file says how large everything is
    const head = Math.min(bytes.length, 600);
    for (let i = 0; i <= pick(6); i++) bytes[pick(head)] = pick(256);
  } else {
    const text = Buffer.from(bytes).toString('latin1'),
      numbers = [...text.matchAll(/-?\d+(\.\d+)?/g)];
    const chosen = numbers[pick(Math.max(1, numbers.length))];
    if (chosen) {
      const word = awkward[pick(awkward.length)]!;
      bytes = Buffer.from(text.slice(0, chosen.index) + word + text.slice(chosen.index + chosen[0].length), 'latin1');
    }
  }
  return { bytes, how: `kind ${kind} at ${at}`, cutAt: null };
}

/** Changes one or two places of a JSON value: takes them away, puts something awkward there, or adds a stranger. Seeded. */
export function mutateJson(value: unknown, number: number): unknown {
  const random = seeded(number * 104729),
    pick = (n: number): number => Math.floor(random() * n),
    copy = structuredClone(value);
  if (pick(20) === 0) return structuredClone(awkwardValues[pick(awkwardValues.length)]);
  for (let round = 0; round <= pick(2); round++) {
    const places: { holder: Record<string, unknown>; key: string }[] = [];
    const walk = (holder: unknown): void => {
      if (typeof holder !== 'object' || holder === null) return;
      for (const key of Object.keys(holder)) {
        places.push({ holder: holder as Record<string, unknown>, key });
        walk((holder as Record<string, unknown>)[key]);
      }
    };
    walk(copy);
    const place = places[pick(Math.max(1, places.length))];
    if (!place) continue;
    const way = pick(4);
    if (way === 0 && !Array.isArray(place.holder)) delete place.holder[place.key];
    else if (way === 1) place.holder[`${place.key}x`] = 1;
    else place.holder[place.key] = structuredClone(awkwardValues[pick(awkwardValues.length)]);
  }
  return copy;
}
