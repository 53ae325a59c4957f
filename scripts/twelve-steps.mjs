// A look of twelve steps made of a demo look: what a finished grade weighs.
const step = (kind, params) => ({ id: kind, kind, name: '', on: true, strength: 1, params, mask: null });

/** Warmth, exposure, contrast, gel; the stock; then curve, saturation, grade and four more: twelve in all. */
export const twelveSteps = (base) => ({
  ...base,
  name: 'Twelve steps',
  scene: [...base.scene, step('exposure', { shiftEv: 0.2 }), step('contrast', { contrast: 10 }), step('gel', { hue: 60, density: 0.1 })],
  print: [
    ...base.print,
    step('hueBands', { hue: [[110, -12, 60]], lightness: [[255, -0.05, 60]] }),
    step('colourRange', { evenHue: 30 }),
    step('vibrance', { change: 15 }),
    step('cdl', { slopeRed: 1.02, saturation: 0.97 }),
  ],
});
