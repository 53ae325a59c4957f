import { oklchOfHex } from '@dyepot/core';
import { Pipette } from 'lucide-react';
import { useState } from 'react';
import { Fields } from '../../kit/Cell.tsx';
import { tell } from '../../kit/notices.tsx';
import { fieldsOf, type FittingProps } from '../fitting.ts';

/** The colour that is laid on: picked from the picture, typed, or set by its numbers. */
export function WashSwatch({ numbers, tools, onSet, onSetAll }: FittingProps): React.JSX.Element {
  const { hue = 0, chroma = 0, lightness = 0.7 } = numbers,
    [typed, setTyped] = useState(''),
    picking = tools.tool === 'range';
  const take = (): void => {
    if (typed.trim() === '') return;
    const found = oklchOfHex(typed);
    if (found) onSetAll(found, 'Wash: typed colour', '');
    else tell(`“${typed.trim().slice(0, 20)}” is no colour: six digits of 0–9 and a–f are one, as in c87f4a`);
    setTyped('');
  };
  return (
    <>
      <div
        className="wash-swatch"
        style={{ background: `oklch(${lightness} ${chroma} ${hue})` }}
        role="img"
        aria-label="The colour of the wash"
      />
      <div className="row">
        <button
          type="button"
          className={`tool ${picking ? 'on' : ''}`}
          aria-pressed={picking}
          onClick={() => tools.onTool(picking ? 'off' : 'range')}
        >
          <Pipette size={13} /> Pick from the picture
        </button>
        <input
          className="typed-colour"
          aria-label="Colour, typed"
          placeholder="c87f4a"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          onBlur={take}
          onKeyDown={(e) => {
            e.stopPropagation();
            if (e.key === 'Enter') take();
          }}
        />
      </div>
      <Fields of={fieldsOf('wash', numbers, ['opacity', 'hue', 'chroma', 'lightness'])} onSet={onSet} />
    </>
  );
}
