import type { Shoot } from '../types.ts';

/** Which frame of a shoot the shelf's looks are shown on; null: each of its lights in turn. */
export function ShownOn({
  shoot,
  chosen,
  choose,
}: {
  shoot: Shoot;
  chosen: number | null;
  choose: (frameId: number | null) => void;
}): React.JSX.Element {
  return (
    <label className="shown-on" title={shoot.name}>
      shown on{' '}
      <select value={chosen ?? ''} onChange={(e) => choose(e.target.value === '' ? null : Number(e.target.value))}>
        <optgroup label={shoot.name}>
          <option value="">each of its lights</option>
          {shoot.frames.map((f) => (
            <option key={f.id} value={f.id}>
              {f.name}, {f.light}
            </option>
          ))}
        </optgroup>
      </select>
    </label>
  );
}
