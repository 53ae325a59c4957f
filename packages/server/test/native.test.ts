import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { stepKinds } from '@dyepot/core/src/look/kinds.ts';
import { loadKernels, type Kernels } from '@dyepot/core/src/kernels/kernels.ts';
import { lookPasses } from '@dyepot/core/src/plan/plan.ts';
import { isPointPass, type PointwisePass } from '@dyepot/core/src/render/pass.ts';
import { compileNative, nativeSource } from '../../../scripts/native/index.mjs';
import { kernelsFile, root } from '../src/places.ts';
import { nativeKernels } from '../src/work/nativeKernels.ts';
import { lookWith } from './actingSteps.ts';

const compiled = nativeKernels();

/** Numbers that no picture should hold, and some that it does. */
const hostile = [NaN, Infinity, -Infinity, -0, 0, 1, -1, 1e-40, 1e38, -1e38, 65504, 0.18, 0.97, 1.0000001, 1e-7, 3, 0.5, 2 ** -126];
const planesOf = (n: number): Float32Array => Float32Array.from({ length: 3 * n }, (_, i) => hostile[(i * 7 + (i >> 4)) % hostile.length]!);
/** Bits of numbers; all that are no number are alike. */
const bitsOf = (values: Float32Array): number[] =>
  Array.from(values, (v) => (Number.isNaN(v) ? -1 : new Uint32Array(Float32Array.of(v).buffer)[0]!));

function after(kernels: Kernels, { kernel, parameters }: PointwisePass, n: number): number[] {
  const plane = n * 4 + 64,
    at = kernels.reserve(3 * plane + parameters.length * 4 + 64),
    f32 = kernels.f32(),
    planes = planesOf(n);
  for (let c = 0; c < 3; c++) f32.set(planes.subarray(c * n, (c + 1) * n), (at + c * plane) / 4);
  f32.set(parameters, (at + 3 * plane) / 4);
  kernels.exports[kernel](at, at + plane, at + 2 * plane, n, at + 3 * plane);
  return [0, 1, 2].flatMap((c) => bitsOf(f32.slice((at + c * plane) / 4, (at + c * plane) / 4 + n)));
}

describe.runIf(compiled)('kernels compiled for this machine', () => {
  it('make of numbers that no picture should hold what WebAssembly makes of them, whatever their count', async () => {
    const webAssembly = await loadKernels(readFileSync(kernelsFile)),
      passes = stepKinds.flatMap((k) => lookPasses(lookWith(k.kind)).filter(isPointPass)),
      met = new Set(passes.map((p) => p.kernel));
    expect(met.size).toBeGreaterThan(20);
    for (const pass of passes)
      for (const n of [4, 8, 12, 20, 148])
        expect([pass.kernel, n, ...after(compiled!, pass, n)]).toEqual([pass.kernel, n, ...after(webAssembly, pass, n)]);
  });
});

/** Loops of every manner the kernels have, and some that must not be taken two steps at a time. */
const source = `
export function tripled(src: usize, dst: usize, n: i32): void {
  for (let i: usize = 0; i < <usize>n * 4; i += 16) v128.store(dst + i, f32x4.mul(f32x4.splat(3), v128.load(src + i)));
}
export function runningSum(src: usize, dst: usize, n: i32): void {
  let sum = f32x4.splat(0);
  for (let i: usize = 0; i < <usize>n * 4; i += 16) { sum = f32x4.add(sum, v128.load(src + i)); v128.store(dst + i, sum); }
}
export function counted(src: usize, dst: usize, n: i32): void {
  for (let i = 0; i < n; i += 4) v128.store(dst + (<usize>i << 2), f32x4.add(v128.load(src + (<usize>i << 2)), f32x4.add(f32x4.splat(<f32>i), f32x4(0, 1, 2, 3))));
}
export function positive(src: usize, dst: usize, n: i32): void {
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const x = v128.load(src + i), over = f32x4.gt(x, f32x4.splat(0));
    v128.store(dst + i, f32x4.splat(-1));
    if (!v128.any_true(over)) continue;
    v128.store(dst + i, v128.bitselect(f32x4.sqrt(x), f32x4.splat(-1), over));
  }
}
export function looked(src: usize, dst: usize, n: i32): void {
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const at = i32x4.trunc_sat_f32x4_s(f32x4.mul(v128.load(src + i), f32x4.splat(7)));
    let out = f32x4.splat(load<f32>(src + (<usize>(i32x4.extract_lane(at, 0) & 7) << 2)));
    out = f32x4.replace_lane(out, 1, load<f32>(src + (<usize>(i32x4.extract_lane(at, 1) & 7) << 2)));
    out = f32x4.replace_lane(out, 2, select<f32>(1, load<f32>(src), i32x4.extract_lane(at, 2) > 3));
    v128.store(dst + i, v128.shuffle<f32>(out, f32x4.nearest(out), 2, 1, 0, 7));
  }
}
let kept: v128 = f32x4.splat(0);
function keep(x: v128): void { for (let k = 0; k < 3; k++) kept = f32x4.add(f32x4.mul(x, x), f32x4.splat(<f32>k)); }
export function through(src: usize, dst: usize, n: i32): void {
  for (let i: usize = 0; i < <usize>n * 4; i += 16) { keep(v128.load(src + i)); v128.store(dst + i, kept); }
}
export function byTurns(src: usize, dst: usize, n: i32): void {
  const scratch = dst + 8192;
  for (let i: usize = 0; i < <usize>n * 4; i += 16) {
    const own = scratch + (i & 16);
    v128.store(own, f32x4.abs(v128.load(src + i)));
    v128.store(own + 32, f32x4.neg(v128.load(src + i)));
    v128.store(dst + i, f32x4.pmax(v128.load(own), f32x4.mul(v128.load(own + 32), f32x4.splat(2))));
  }
}
export function oneScratch(src: usize, dst: usize, n: i32): void {
  const scratch = dst + 8192;
  for (let i: usize = 0; i < <usize>n * 4; i += 16) { v128.store(scratch, v128.load(src + i)); v128.store(dst + i, f32x4.sqrt(v128.load(scratch))); }
}
`;
type Trial = Record<string, (src: number, dst: number, n: number) => void>;
describe.runIf(compiled)('the compiler of kernels', () => {
  const folder = mkdtempSync(join(tmpdir(), 'dyepot-native-')),
    [text, file] = [join(folder, 'trial.wat'), join(folder, 'trial.node')];
  let ours: Trial & { bind(memory: ArrayBuffer): void }, theirs: Trial, memory: WebAssembly.Memory;
  beforeAll(async () => {
    writeFileSync(join(folder, 'trial.ts'), source);
    const asc = join(root, 'node_modules/assemblyscript/bin/asc.js'),
      options = ['-O3', '--enable', 'simd', '--runtime', 'stub', '--noAssert', '--textFile', text, '--outFile', join(folder, 'trial.wasm')];
    execFileSync(process.execPath, [asc, join(folder, 'trial.ts'), ...options]);
    expect(await compileNative(text, file)).toBeNull();
    const { instance } = await WebAssembly.instantiate(readFileSync(join(folder, 'trial.wasm')), { env: { abort() {} } });
    theirs = instance.exports as unknown as Trial;
    memory = instance.exports['memory'] as WebAssembly.Memory;
    memory.grow(1);
    ours = (createRequire(import.meta.url)(file) as { create: () => typeof ours }).create();
  });
  afterAll(() => rmSync(folder, { recursive: true, force: true }));

  it.each(['tripled', 'runningSum', 'counted', 'positive', 'looked', 'through', 'byTurns', 'oneScratch'])(
    'makes of %s what WebAssembly makes of it, for whole eights and what is left over',
    (name) => {
      for (const n of [4, 8, 12, 16, 28, 100]) {
        const [src, dst] = [1024, 16384];
        new Float32Array(memory.buffer).fill(0);
        new Float32Array(memory.buffer, src, n).set(Float32Array.from({ length: n }, (_, i) => Math.sin(i * 12.9898) * 3));
        const own = memory.buffer.slice(0);
        ours.bind(own);
        ours[name]!(src, dst, n);
        theirs[name]!(src, dst, n);
        const out = new Float32Array(memory.buffer, dst, n);
        expect(out.some((v) => v !== 0)).toBe(true);
        expect(bitsOf(new Float32Array(own, dst, n))).toEqual(bitsOf(out));
      }
    },
  );
  it('takes two steps at a time where none needs the one before, and only there', () => {
    const bodies = nativeSource(readFileSync(text, 'utf8')).split(/^static /m),
      isWide = (name: string): boolean => bodies.some((b) => /^void _/.test(b) && b.includes(`trial_${name}(`) && /\bw_/.test(b));
    const wide = ['tripled', 'runningSum', 'counted', 'positive', 'looked', 'through', 'byTurns', 'oneScratch'].filter(isWide);
    expect(wide).toEqual(['tripled', 'counted', 'positive', 'looked', 'through', 'byTurns']);
  });
  it('says what it does not know, and leaves no half of a file', async () => {
    writeFileSync(text, readFileSync(text, 'utf8').replace('f32x4.sqrt', 'f32x4.relaxed_madd'));
    await expect(compileNative(text, file)).rejects.toThrow('not known: f32x4.relaxed_madd');
  });
});
