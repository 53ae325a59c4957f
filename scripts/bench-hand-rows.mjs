// Rows of the bench for what follows the hand in Chromium: a slider, a brush, a handle of a curve.

/** `run`: runs a command, and gives what it printed. */
export function handRows(run) {
  const measured = (name) =>
      JSON.parse(
        run(process.execPath, [`scripts/bench-${name}.mjs`])
          .out.trim()
          .split('\n')
          .pop(),
      ),
    row = (what, p95, p50, bar) => ({
      what: `${what}, 95th percentile`,
      ours: `${p95.toFixed(0)} ms (median ${p50.toFixed(0)})`,
      reference: `bar: ${bar} ms`,
      ratio: p95 / bar,
      bar: 1,
    });
  const slider = measured('slider'),
    dab = measured('dab'),
    handle = measured('designer');
  return [
    row(
      `slider, twelve steps, lead ${slider.megapixels.toFixed(2)} MP + ${slider.witnesses} witnesses: change to draft`,
      slider.p95,
      slider.p50,
      33,
    ),
    row('the same, change to readout (the histogram redrawn)', slider.read95, slider.read50, 33),
    row('the same, change to settled picture', slider.settled95, slider.settled50, 150),
    {
      what: 'the same, change to the last of the witnesses, 95th percentile',
      ours: `${slider.followed95.toFixed(0)} ms (median ${slider.followed50.toFixed(0)})`,
      reference: 'the settled picture',
      ratio: slider.followed95 / slider.settled95,
      bar: null,
    },
    row(`brush, twelve steps, ${dab.megapixels.toFixed(2)} MP: move to the frame that shows the dab`, dab.p95, dab.p50, 16),
    row('a handle of a stock’s curve: move to the picture’s draft', handle.p95, handle.p50, 33),
  ];
}
