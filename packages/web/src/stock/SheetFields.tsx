import { number, paperSlope, type NumberParameter, type StockSheet } from '@dyepot/core';
import { Fields } from '../kit/Cell.tsx';
import { curveNumbers, layerNames, type CurveNumber } from './charting.ts';

/** The grade that a paper's slope stands for. */
const gradeOf = (gamma: number): number =>
  Math.min(5, Math.max(0, Math.round((Math.log(gamma / paperSlope(0)) / Math.log(paperSlope(1) / paperSlope(0))) * 10) / 10));
type Change = (sheet: StockSheet, words: string, gesture: string) => void;
const share = (label: string, value: number, most = 1): NumberParameter => number(label, '', 0, most, value, 0.01, 2),
  dyeNames = ['cyan', 'magenta', 'yellow'],
  nm = (label: string): NumberParameter => number(label, 'nm', 5, 150, 40, 1, 0);
/** One number of a nested list of records. */
function put<T extends object>(list: readonly T[], i: number, change: Partial<T>): T[] {
  return list.map((item, k) => (k === i ? { ...item, ...change } : item));
}

/** The whole sheet, number by number. */
export function SheetFields({ sheet, onSheet }: { sheet: StockSheet; onSheet: Change }): React.JSX.Element {
  const colour = sheet.layers.length === 3,
    { print, grain, halation } = sheet,
    set = (change: Partial<StockSheet>, words: string, gesture: string): void => onSheet({ ...sheet, ...change }, words, gesture);
  const curveFields = (
    curves: StockSheet['curves'],
    i: number,
    onCurves: (next: StockSheet['curves'], gesture: string) => void,
  ): React.JSX.Element => (
    <Fields
      of={(Object.keys(curveNumbers) as CurveNumber[]).map((name) => ({
        name,
        parameter: { ...curveNumbers[name], label: `${curveNumbers[name].label}` },
        value: curves[i]![name],
      }))}
      onSet={(name, value, gesture) => {
        const next = { ...curves[i]!, [name]: value };
        if (next.dmax - next.dmin < 0.1) return;
        onCurves(put(curves, i, next), gesture);
      }}
    />
  );
  return (
    <div className="stock-sheet">
      <section>
        <h3>Light</h3>
        <Fields
          of={[
            { name: 'balancedForKelvin', parameter: number('Balanced for', 'K', 2000, 12000, 5500, 50, 0), value: sheet.balancedForKelvin },
            { name: 'viewedInKelvin', parameter: number('Seen in', 'K', 2000, 12000, 5000, 50, 0), value: sheet.viewedInKelvin },
            { name: 'grey', parameter: number('Middle grey', '', 0.02, 0.8, 0.18, 0.01, 2), value: sheet.grey },
            ...(colour ? [{ name: 'masking', parameter: share('Masking', 0.85), value: sheet.masking }] : []),
          ]}
          onSet={(name, value, gesture) => set({ [name]: value }, 'Light of the sheet', gesture)}
        />
        <label className="inline">
          <input
            type="checkbox"
            checked={!sheet.corrected}
            onChange={(e) =>
              set({ corrected: !e.target.checked }, e.target.checked ? 'As if shot without correction' : 'Corrected for the light', '')
            }
          />{' '}
          as if shot without correction
        </label>
      </section>
      {sheet.curves.map((_, i) => (
        <section key={`curve-${i}`}>
          <h3>{colour ? `Curve, ${layerNames[i]}` : 'Curve of the negative'}</h3>
          {curveFields(sheet.curves, i, (curves, gesture) => set({ curves }, 'A curve', gesture && `${i}-${gesture}`))}
        </section>
      ))}
      {sheet.layers.map((layer, i) => (
        <section key={`layer-${i}`}>
          <h3>Sees, {colour ? layerNames[i] : 'the layer'}</h3>
          <Fields
            of={[
              { name: 'peak', parameter: number('Peak', 'nm', 350, 760, 550, 1, 0), value: layer.peak },
              { name: 'towardsBlue', parameter: nm('Towards blue'), value: layer.towardsBlue },
              { name: 'towardsRed', parameter: nm('Towards red'), value: layer.towardsRed },
              { name: 'cut', parameter: number('Cut below', 'nm', 0, 700, 0, 5, 0), value: layer.cut },
            ]}
            onSet={(name, value, gesture) =>
              set({ layers: put(sheet.layers, i, { [name]: value }) }, 'What a layer sees', gesture && `${i}-${gesture}`)
            }
          />
        </section>
      ))}
      {colour && (
        <section>
          <h3>Interlayer effects</h3>
          <Fields
            of={[1, 2, 3, 5, 6, 7].map((k) => ({
              name: String(k),
              parameter: number(`${'RGB'[Math.floor(k / 3)]} by ${'RGB'[k % 3]}`, '', -1.5, 1.5, 0, 0.01, 2),
              value: sheet.interlayer[k]!,
            }))}
            onSet={(name, value, gesture) => {
              const m = sheet.interlayer.map((v, k) => (k === Number(name) ? value : v));
              // each row adds to nothing, so that greys are left alone
              for (let row = 0; row < 3; row++) m[row * 4] = -(m.slice(row * 3, row * 3 + 3).reduce((a, b) => a + b, 0) - m[row * 4]!);
              set({ interlayer: m.map((v) => Math.min(2, Math.max(-2, v))) }, 'Interlayer effects', gesture && `${name}-${gesture}`);
            }}
          />
        </section>
      )}
      {sheet.dyes.map((dye, i) => (
        <section key={`dye-${i}`}>
          <h3>Dye, {dyeNames[i]}</h3>
          <Fields
            of={[
              { name: 'peak', parameter: number('Peak', 'nm', 350, 760, 550, 1, 0), value: dye.peak },
              { name: 'towardsBlue', parameter: nm('Towards blue'), value: dye.towardsBlue },
              { name: 'towardsRed', parameter: nm('Towards red'), value: dye.towardsRed },
              ...dye.sides.map((s, k) => ({ name: `side-${k}`, parameter: share(`At ${s.peak} nm`, s.share, 0.6), value: s.share })),
            ]}
            onSet={(name, value, gesture) =>
              set(
                {
                  dyes: put(
                    sheet.dyes,
                    i,
                    name.startsWith('side-') ? { sides: put(dye.sides, Number(name.slice(5)), { share: value }) } : { [name]: value },
                  ),
                },
                'A dye',
                gesture && `${i}-${gesture}`,
              )
            }
          />
        </section>
      ))}
      {print && (
        <section>
          <h3>Print</h3>
          <Fields
            of={[
              { name: 'lampKelvin', parameter: number('Lamp', 'K', 2000, 8000, 3000, 50, 0), value: print.lampKelvin },
              { name: 'baseBlue', parameter: share('Base, blue', 0, 0.5), value: print.baseBlue },
              { name: 'baseRed', parameter: share('Base, red', 0, 0.5), value: print.baseRed },
              ...(colour
                ? []
                : [
                    {
                      name: 'grade',
                      parameter: number('Paper grade', '', 0, 5, 2, 0.1, 1),
                      value: gradeOf(print.curves[0]!.gamma),
                    },
                  ]),
              ...(colour ? [] : [{ name: 'tone', parameter: number('Tone', '', -0.5, 0.5, 0, 0.01, 2), value: print.tone }]),
            ]}
            onSet={(name, value, gesture) =>
              set(
                {
                  print:
                    name === 'grade'
                      ? { ...print, curves: print.curves.map((c) => ({ ...c, gamma: paperSlope(value) })) }
                      : { ...print, [name]: value },
                },
                'The print',
                gesture,
              )
            }
          />
          {print.curves.map((_, i) => (
            <div key={`print-${i}`}>
              <h4>{colour ? `Curve, ${layerNames[i]}` : 'Curve of the paper'}</h4>
              {curveFields(print.curves, i, (curves, gesture) =>
                set({ print: { ...print, curves } }, 'A curve of the print', gesture && `p${i}-${gesture}`),
              )}
            </div>
          ))}
        </section>
      )}
      <section>
        <h3>Grain</h3>
        <Fields
          of={[
            { name: 'rms', parameter: number('Granularity', '×1000', 0, 60, 6, 0.5, 1), value: grain?.rms ?? 0 },
            { name: 'sizeUm', parameter: number('Size', 'µm', 2, 30, 7, 0.5, 1), value: grain?.sizeUm ?? 7 },
            { name: 'roughness', parameter: share('Roughness', 0.3), value: grain?.roughness ?? 0.3 },
            { name: 'colour', parameter: share('Colour', 0.3), value: grain?.colour ?? 0 },
            { name: 'darks', parameter: share('In darks', 0.7, 2), value: grain?.darks ?? 0.7 },
            { name: 'mids', parameter: share('In mids', 1, 2), value: grain?.mids ?? 1 },
            { name: 'lights', parameter: share('In lights', 0.6, 2), value: grain?.lights ?? 0.6 },
          ]}
          onSet={(name, value, gesture) =>
            set(
              {
                grain: { ...(grain ?? { rms: 0, sizeUm: 7, roughness: 0.3, colour: 0, darks: 0.7, mids: 1, lights: 0.6 }), [name]: value },
              },
              'Grain',
              gesture,
            )
          }
        />
        <h3>Halation</h3>
        <Fields
          of={[
            { name: 'reachUm', parameter: number('Reach', 'µm', 10, 250, 90, 5, 0), value: halation?.reachUm ?? 90 },
            { name: 'red', parameter: share('Red', 0, 0.6), value: halation?.red ?? 0 },
            { name: 'green', parameter: share('Green', 0, 0.6), value: halation?.green ?? 0 },
            { name: 'blue', parameter: share('Blue', 0, 0.6), value: halation?.blue ?? 0 },
          ]}
          onSet={(name, value, gesture) =>
            set({ halation: { ...(halation ?? { reachUm: 90, red: 0, green: 0, blue: 0 }), [name]: value } }, 'Halation', gesture)
          }
        />
      </section>
    </div>
  );
}
