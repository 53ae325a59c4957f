import { nameOfKind, nearestSpeed, sheetOf, stockReadoutsOf, stocks, type StockSheet } from '@dyepot/core';
import { line, range, scaleLinear } from 'd3';
import { useMemo } from 'react';
import { filmOf } from '../../view/filmEngine.ts';
import { Fields } from '../../kit/Cell.tsx';
import { Rove } from '../../kit/Rove.tsx';
import { useStocksQuery } from '../../stock/index.ts';
import { Link } from 'react-router';
import { fieldsOf, trayWidth as W, type FittingProps } from '../fitting.ts';

const H = 150,
  inks = ['#e06a5a', '#69b36b', '#6f94d8'],
  grey = ['#f1f0ef'],
  x = scaleLinear([-6.5, 6.5], [0, W]),
  stop = Math.log10(2);

/** A film stock: which, how it is handled, and its characteristic curves as they follow. */
export function FilmControl(props: FittingProps): React.JSX.Element {
  const sheet = sheetOf(props.params),
    own = (useStocksQuery().data ?? []).filter((s) => s.id !== null && s.sheet !== null);
  return (
    <>
      <Rove className="starts" role="group" aria-label="Stocks">
        {stocks.map((s) => (
          <button
            key={s.name}
            type="button"
            aria-pressed={s.name === sheet?.name}
            title={`${nameOfKind[s.kind]}. ${s.notes}`}
            onClick={() => props.onSet('sheet', s, '')}
          >
            {s.name}
          </button>
        ))}
      </Rove>
      {own.length > 0 && (
        <Rove className="starts" role="group" aria-label="Stocks of the shelf">
          {own.map(({ id, sheet: s }) => (
            <button key={id} type="button" aria-pressed={s === sheet} title={s!.notes} onClick={() => props.onSet('sheet', s, '')}>
              {s!.name}
            </button>
          ))}
        </Rove>
      )}
      {sheet ? (
        <Sheet {...props} sheet={sheet} />
      ) : (
        <p className="purpose">Without a sheet it is the plain neutral response: choose one.</p>
      )}
    </>
  );
}
function Sheet({ params, numbers, onSet, sheet }: FittingProps & { sheet: StockSheet }): React.JSX.Element {
  const film = filmOf(params)!,
    said = useMemo(() => stockReadoutsOf(sheet), [sheet]),
    middle = film.logWhite + Math.log10(0.18);
  const drawn = useMemo(() => {
    const evs = range(-6.5, 6.51, 0.25),
      at = evs.map((ev) => film.densities(sheet.layers.map(() => middle + stop * ev)));
    return { evs, film: at, print: at.map((d) => film.printed(d)) };
  }, [film, sheet, middle]);
  const most = Math.max(2.4, ...drawn.film.flat(), ...drawn.print.flat()),
    y = scaleLinear([0, most], [H - 16, 8]),
    colours = sheet.layers.length === 3 ? inks : grey,
    path = (of: number[][], layer: number): string =>
      line<number>()
        .x((i) => x(drawn.evs[i]!))
        .y((i) => y(of[i]![layer]!))(range(drawn.evs.length)) ?? '';
  return (
    <>
      <p className="purpose">{sheet.notes}</p>
      <Link className="text-button" to="/stock?look=1">
        Open in the stock designer
      </Link>
      <svg
        className="drawing"
        viewBox={`0 0 ${W} ${H}`}
        role="img"
        aria-label={`Characteristic curves of ${sheet.name}: density over exposure`}
      >
        <rect width={W} height={H} fill="#1f1f1f" />
        {[-6, -4, -2, 0, 2, 4].map((ev) => (
          <g key={ev}>
            <path d={`M${x(ev)},0V${H - 14}`} stroke={ev === 0 ? '#4a4a4a' : '#353535'} />
            <text x={x(ev) + 3} y={H - 4} className="on-dark">
              {ev > 0 ? `+${ev}` : ev < 0 ? `−${-ev}` : '0 EV'}
            </text>
          </g>
        ))}
        {[1, 2, 3]
          .filter((d) => d < most)
          .map((d) => (
            <g key={d}>
              <path d={`M0,${y(d)}H${W}`} stroke="#353535" />
              <text x={3} y={y(d) - 3} className="on-dark">
                {`D ${d}`}
              </text>
            </g>
          ))}
        {sheet.print &&
          colours.map((c, i) => (
            <path key={c} d={path(drawn.print, i)} stroke={c} strokeWidth="1" strokeDasharray="3 3" fill="none" opacity="0.8" />
          ))}
        {colours.map((c, i) => (
          <path key={c} d={path(drawn.film, i)} stroke={c} strokeWidth="1.8" fill="none" />
        ))}
      </svg>
      <p className="purpose">
        ISO {nearestSpeed(said.iso)}, average gradient {said.averageGradient.toFixed(2)}, {said.latitudeStops.toFixed(1)} stops, D{' '}
        {Math.min(...said.dmin).toFixed(2)} to {Math.max(...said.dmax).toFixed(2)}
        {sheet.print ? '; the dashed curves are the print’s' : ''}
      </p>
      <Fields
        of={fieldsOf(
          'film',
          numbers,
          // silver has no colour to be more of, and a slide no print
          [
            'contrast',
            ...(sheet.kind === 'blackAndWhite' ? [] : ['colour']),
            'rated',
            'push',
            ...(sheet.kind === 'reversal' ? [] : ['print']),
            ...(sheet.grain || sheet.halation ? ['format'] : []),
          ],
        )}
        onSet={onSet}
      />
    </>
  );
}
