import type { Frame } from '../types.ts';
import type { Zoom } from './layout.ts';

/** Under the picture: which frame, how large it is shown, whether as delivered, and what the pointer reads. */
export function LeadFoot({
  frame,
  zoom,
  scale,
  exact,
  probe,
}: {
  frame: Frame;
  zoom: Zoom;
  scale: number;
  exact: boolean;
  probe: string;
}): React.JSX.Element {
  const percent = (v: number): string => `${Math.round(v * 100)} %`;
  return (
    <footer className="lead-foot">
      <span>{frame.name}</span>
      <span className="foot-light">{frame.light}</span>
      <span data-testid="zoom">
        {zoom === 'fit' ? `Fit, ${percent(scale)}` : zoom === 'fill' ? `Fill, ${percent(scale)}` : percent(zoom)}
      </span>
      {exact && (
        <span className="exact-mark" title="This is the full-size render scaled down, as a delivered file would look">
          exact
        </span>
      )}
      <span className="spring" />
      <span className="probe">{probe}</span>
    </footer>
  );
}
