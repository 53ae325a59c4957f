import { useMemo } from 'react';
import { useMarks } from '../evenness/index.ts';
import type { Frame } from '../types.ts';
import { everything, filters, marks, type Filter } from './choosing.ts';

/** What of the shoot is shown: by rating, mark, light, camera, lens, look, trims, groundwork, evenness and words; and in which order. */
export function FilterBar({
  frames,
  shown,
  filter,
  onFilter,
  onGroup,
}: {
  frames: readonly Frame[];
  shown: number;
  filter: Filter;
  onFilter: (f: Filter) => void;
  onGroup: () => void;
}): React.JSX.Element {
  const cameras = useMemo(() => [...new Set(frames.map((f) => f.camera))].sort(), [frames]),
    lenses = useMemo(() => [...new Set(frames.map((f) => f.lens))].filter(Boolean).sort(), [frames]),
    measured = Object.keys(useMarks().off).length > 0,
    lights = useMemo(() => [...new Set(frames.map((f) => f.light))], [frames]),
    set = (change: Partial<Filter>): void => onFilter({ ...filter, ...change });
  const choice = (
    label: string,
    value: string,
    options: readonly (readonly [string, string])[],
    change: (v: string) => void,
  ): React.JSX.Element => (
    <select aria-label={label} title={label} value={value} onChange={(e) => change(e.target.value)}>
      {options.map(([v, words]) => (
        <option key={v} value={v}>
          {words}
        </option>
      ))}
    </select>
  );
  return (
    <div className="filter-bar" role="search" aria-label="What is shown">
      {choice(
        'Rating',
        String(filter.rating ?? ''),
        [
          ['', 'any rating'],
          ['not rejected', 'not rejected'],
          ['1', '1 and over'],
          ['2', '2 and over'],
          ['3', '3 and over'],
          ['4', '4 and over'],
          ['5', '5'],
          ['rejected', 'rejected'],
        ],
        (v) => set({ rating: v === '' ? null : v === 'rejected' || v === 'not rejected' ? v : Number(v) }),
      )}
      {choice('Mark', filter.mark ?? '', [['', 'any mark'], ...marks.map((m) => [m.mark, m.words] as const)], (v) =>
        set({ mark: v || null }),
      )}
      {choice('Light', filter.light ?? '', [['', 'all lights'], ...lights.map((l) => [l, l] as const)], (v) => set({ light: v || null }))}
      {cameras.length > 1 &&
        choice('Camera', filter.camera ?? '', [['', 'all cameras'], ...cameras.map((c) => [c, c] as const)], (v) =>
          set({ camera: v || null }),
        )}
      {lenses.length > 1 &&
        choice('Lens', filter.lens ?? '', [['', 'all lenses'], ...lenses.map((l) => [l, l] as const)], (v) => set({ lens: v || null }))}
      {(frames.some((f) => f.look) || filter.look) &&
        choice(
          'Look',
          filter.look ?? '',
          [
            ['', 'any look'],
            ['own', 'a look of its own'],
            ['shoot', 'the shoot’s look'],
          ],
          (v) => set({ look: (v || null) as Filter['look'] }),
        )}
      {(frames.some((f) => f.steps) || filter.trims) &&
        choice(
          'Trims',
          filter.trims ?? '',
          [
            ['', 'trimmed or not'],
            ['with', 'trimmed'],
            ['without', 'not trimmed'],
          ],
          (v) => set({ trims: (v || null) as Filter['trims'] }),
        )}
      {choice(
        'Groundwork',
        filter.ground ?? '',
        [
          ['', 'any groundwork'],
          ['done', 'groundwork done'],
          ['not yet', 'groundwork not yet'],
        ],
        (v) => set({ ground: v === '' ? null : (v as Filter['ground']) }),
      )}
      {(measured || filter.even) &&
        choice(
          'Evenness',
          filter.even ?? '',
          [
            ['', 'even or not'],
            ['even', 'even with its light'],
            ['out', 'not even'],
          ],
          (v) => set({ even: (v || null) as Filter['even'] }),
        )}
      <input
        aria-label="Words in name, light, camera, lens, ISO or time"
        placeholder="words, iso 400"
        value={filter.words}
        maxLength={80}
        onChange={(e) => set({ words: e.target.value })}
        onKeyDown={(e) => e.key === 'Escape' && set({ words: '' })}
      />
      {choice(
        'Order',
        filter.order,
        [
          ['name', 'by name'],
          ['time', 'by time'],
          ['rating', 'by rating'],
          ['iso', 'by ISO'],
          ...(measured ? [['even', 'least even first'] as const] : []),
        ],
        (v) => set({ order: v as Filter['order'] }),
      )}
      {filters(filter) && (
        <>
          <span role="status">
            {shown} of {frames.length}
          </span>
          <button type="button" className="text-button" onClick={() => onFilter({ ...everything, order: filter.order })}>
            Show all
          </button>
        </>
      )}
      <button
        type="button"
        className="text-button filter-group"
        title="Proposes groups by time, balance, brightness and colour"
        onClick={onGroup}
      >
        Group by light…
      </button>
    </div>
  );
}
