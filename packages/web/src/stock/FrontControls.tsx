import { number, stockReadoutsOf, stocks, type NumberParameter, type StockSheet } from '@dyepot/core';
import { memo } from 'react';
import { Fields } from '../kit/Cell.tsx';
import type { Use } from './stockSlice.ts';

const numbers: Record<keyof Use, NumberParameter> = {
  contrast: number('Contrast', '%', -50, 60, 0, 1, 0),
  colour: number('Colour', '%', -100, 100, 0, 1, 0),
  rated: number('Rated', 'EV', -3, 3, 0, 0.1, 1),
  push: number('Pushed', 'EV', -2, 3, 0, 0.1, 1),
  print: number('Print', 'EV', -1.5, 1.5, 0, 0.05, 2),
};

/** What there is to say of a stock at first: its character, and how it is used. */
export const FrontControls = memo(function FrontControls({
  sheet,
  use,
  onUse,
  onCharacter,
}: {
  sheet: StockSheet;
  use: Use;
  onUse: (change: Partial<Use>) => void;
  onCharacter: (sheet: StockSheet) => void;
}): React.JSX.Element {
  const speed = stockReadoutsOf(sheet).iso * 2 ** use.rated,
    names = (Object.keys(numbers) as (keyof Use)[]).filter(
      (n) => !(n === 'colour' && sheet.kind === 'blackAndWhite') && !(n === 'print' && sheet.kind === 'reversal'),
    );
  return (
    <section className="stock-front" aria-label="Character and use">
      <label className="inline">
        character{' '}
        <select
          aria-label="Character"
          value=""
          onChange={(e) => {
            const s = stocks.find((x) => x.name === e.target.value);
            if (s) onCharacter(s);
          }}
        >
          <option value="">as it is</option>
          {stocks.map((s) => (
            <option key={s.name} value={s.name}>
              of {s.name}: {s.notes}
            </option>
          ))}
        </select>
      </label>
      <Fields
        of={names.map((name) => ({ name, parameter: numbers[name], value: use[name] }))}
        onSet={(name, value) => onUse({ [name]: value })}
      />
      <p className="purpose">
        Metered at ISO {Math.round(speed)}. These say how the stock is used; the sheet stays as it is, and they go into the look with it.
      </p>
    </section>
  );
});
