import { directionAt } from '../../colour/gamut.ts';
import { inLab } from '../../render/pass.ts';
import { defineStep, number, numberOf } from '../../render/step.ts';

const intervals = 1024,
  /** the warm end of the line from warm to cool, OKLCh degrees (common practice: orange against blue) */
  warmHue = 58,
  /** how much of a colour's own length along that line a whole move is */
  whole = 0.6;

/** Warm colours and cool colours, each moved along the line from warm to cool and made more or less colourful. All of it is in proportion to a colour's own chroma, so greys stay. */
export const apart = defineStep({
  kind: 'apart',
  lane: 'print',
  name: 'Apart',
  purpose: 'Warm and cool colours each warmer or cooler, greys untouched',
  atStrength: 'multiplies all four',
  needs: ['warmer and bluer', 'separation', 'orange and teal', 'complementary', 'cool shadows warm skin'],
  params: {
    warmWarmer: number('Warm ones, cooler to warmer', '%', -100, 100, 0, 1, 0),
    warmColour: number('Warm ones’ colour', '%', -100, 100, 0, 1, 0),
    coolWarmer: number('Cool ones, cooler to warmer', '%', -100, 100, 0, 1, 0),
    coolColour: number('Cool ones’ colour', '%', -100, 100, 0, 1, 0),
  },
  compile: (values, strength) => {
    const of = (name: string): number => (numberOf(values, name) / 100) * strength;
    if (['warmWarmer', 'warmColour', 'coolWarmer', 'coolColour'].every((n) => of(n) === 0)) return [];
    const angle = (warmHue * Math.PI) / 180,
      moved = Array.from({ length: intervals + 1 }, (_, i) => {
        const [a, b] = directionAt(i / intervals),
          length = Math.hypot(a, b),
          u = (a * Math.cos(angle) + b * Math.sin(angle)) / length,
          v = (b * Math.cos(angle) - a * Math.sin(angle)) / length,
          warm = u > 0,
          warmer = whole * of(warm ? 'warmWarmer' : 'coolWarmer'),
          along = u + warmer * Math.abs(u),
          colour = Math.max(-1, of(warm ? 'warmColour' : 'coolColour')) * u * u,
          turn = Math.atan2(v, along) - Math.atan2(v, u);
        return {
          turn: ((((turn + Math.PI) % (2 * Math.PI)) + 2 * Math.PI) % (2 * Math.PI)) - Math.PI,
          factor: Math.hypot(along, v) * (1 + colour) - 1,
        };
      }),
      table = (values: readonly number[]): number[] => [...values, values[0]!];
    return inLab('hueBands', [
      0.0005,
      1 / 0.004,
      // hue and chroma, not lightness
      ...[1, 1, 0],
      intervals,
      ...table(moved.map((m) => m.turn)),
      ...table(moved.map((m) => m.factor)),
      ...table(moved.map(() => 0)),
    ]);
  },
});
