/** How near the pixels come to the truth, beside LibRaw in the same run: rows of the bench. `dist/bench-pixels.mjs` has to be built. */
export function pixelRows(run) {
  const rows = [];
  const pixels = JSON.parse(
      run(
        process.execPath,
        ['dist/bench-pixels.mjs', 'packages/core/src/render/kernels.wasm', 'packages/camera/frames', '.tmp/photographs'],
        {
          maxBuffer: 1e8,
        },
      ).out,
    ),
    mean = (list) => list.reduce((a, b) => a + b, 0) / list.length;
  console.table(pixels.list.map(({ name, kind, ours, libraw }) => ({ name, kind, ours, ...libraw })));
  for (const kind of ['photograph', 'scene']) {
    const own = pixels.list.filter((p) => p.kind === kind),
      ours = mean(own.map((p) => p.ours)),
      [best, q] = Object.keys(own[0].libraw)
        .map((name) => [mean(own.map((p) => p.libraw[name])), name])
        .sort((a, b) => b[0] - a[0])[0];
    rows.push({
      what: `demosaic, mean PSNR of ${own.length} ${kind}s`,
      ours: `${ours.toFixed(2)} dB`,
      reference: `dcraw_emu ${q} ${best.toFixed(2)} dB, 2.5 over it`,
      ratio: (best + 2.5) / ours,
      bar: 1,
    });
  }
  rows.push({
    what: 'demosaic of 24 MP, the plate laid out',
    ours: `${pixels.demosaicNanoseconds.toFixed(1)} ns/pixel`,
    reference: '25 ns/pixel',
    ratio: pixels.demosaicNanoseconds / 25,
    bar: 1,
  });
  for (const iso of [1600, 3200, 6400, 12800]) {
    const own = pixels.noise.filter((p) => p.iso === iso),
      [ours, best] = [mean(own.map((p) => p.ours)), mean(own.map((p) => p.libraw))];
    rows.push({
      what: `noise at ISO ${iso}, mean PSNR of ${own.length} scenes, at 2.1 and 1.8 deviations`,
      ours: `${ours.toFixed(2)} dB`,
      reference: `the best of dcraw_emu -n ${best.toFixed(2)} dB, 1 over it`,
      ratio: (best + 1) / ours,
      bar: 1,
    });
  }
  for (const iso of [100, 800]) {
    const own = pixels.softness.filter((p) => p.iso === iso),
      two = own.filter((p) => p.lucy !== null),
      [before, after] = [mean(own.map((p) => p.before)), mean(own.map((p) => p.after))];
    rows.push({
      what: `softness returned at ISO ${iso}, mean PSNR against scenes without aperture and filter, ${own.length} pictures`,
      ours: `${after.toFixed(2)} dB`,
      reference: `as it came ${before.toFixed(2)} dB; of two scenes ours ${mean(two.map((p) => p.after)).toFixed(2)}, the best of Richardson-Lucy ${mean(two.map((p) => p.lucy)).toFixed(2)}`,
      ratio: mean(two.map((p) => p.lucy)) / mean(two.map((p) => p.after)),
      bar: 1,
    });
  }
  rows.push({
    what: 'taking noise out, luma and colour',
    ours: `${pixels.quietNanoseconds.toFixed(0)} ns/pixel`,
    reference: 'no bar',
    ratio: pixels.quietNanoseconds / 30,
    bar: null,
  });
  return rows;
}
