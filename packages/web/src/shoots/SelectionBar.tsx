import { Button } from '@chakra-ui/react';
import { useNavigate } from 'react-router';
import { LazyMenu } from '../kit/LazyMenu.tsx';
import { Rove } from '../kit/Rove.tsx';
import type { Frame } from '../types.ts';

/** What is known of how a frame was taken. */
const exposureOf = ({ camera, exif: { iso, shutterSeconds: t, aperture } }: Frame): string =>
  [camera, iso > 0 && `ISO ${iso}`, t > 0 && (t >= 0.5 ? `${t} s` : `1/${Math.round(1 / t)} s`), aperture > 0 && `f/${aperture}`]
    .filter(Boolean)
    .join(', ');

/** What can be done with the frames that are chosen. */
export function SelectionBar({
  chosen,
  onBench,
  onSide,
  onLead,
  onFind,
  onStart,
  onDust,
  onLight,
  onLook,
  onDip,
  onSidecars,
  onMerge,
  onTakeOut,
  onClear,
}: {
  chosen: readonly Frame[];
  onBench: (frame: Frame) => void;
  onSide: () => void;
  onLead: (frame: Frame) => void;
  onFind: (frame: Frame) => void;
  onStart: () => void;
  onDust: () => void;
  onLight: () => void;
  onLook: () => void;
  onDip: () => void;
  onSidecars: (way: 'read' | 'write') => void;
  onMerge: () => void;
  onTakeOut: () => void;
  onClear: () => void;
}): React.JSX.Element {
  const navigate = useNavigate(),
    one = chosen.length === 1 ? chosen[0]! : null,
    act = (words: string, title: string | undefined, run: () => void): React.JSX.Element => (
      <Button key={words} size="xs" variant="ghost" title={title} onClick={run}>
        {words}
      </Button>
    );
  return (
    <Rove className="selection-bar" role="toolbar" aria-label="Chosen frames">
      <b>{chosen.length} chosen</b>
      <span title={one ? (one.doubt ?? exposureOf(one)) : undefined}>
        {one ? (one.doubt ? `may not be whole: ${one.doubt}` : exposureOf(one)) : ''}
      </span>
      {one && act('Open on the bench', 'Enter', () => onBench(one))}
      {act(one ? 'Look closely' : 'Side by side', 'Large, compared, rated and trimmed', onSide)}
      {one && !one.missing && act('Groundwork', undefined, () => void navigate(`/ground?shoot=${one.shootId}&frame=${one.id}`))}
      {one && !one.missing && act('Make it the lead', 'The frame looks are designed on', () => onLead(one))}
      {one?.missing && act('Find the file…', undefined, () => onFind(one))}
      {act('Start for me…', 'Light, exposure, zones, ends and angle, as Dyepot would begin', onStart)}
      {!one && act('Dust…', 'Specks that these frames show at one place of the sensor', onDust)}
      {act('Light…', 'What light these frames stand in', onLight)}
      {act('Own look…', 'A look for these frames alone, instead of the shoot’s', onLook)}
      {act('Dip again', 'The same raw once more, beside the first, to be treated another way', onDip)}
      <LazyMenu
        minW="270px"
        trigger={
          <Button size="xs" variant="ghost" title="Exposures merged; ratings and marks in XMP files beside the raws">
            More…
          </Button>
        }
        items={[
          { value: 'merge', words: 'Merge exposures…' },
          { value: 'write', words: 'Write ratings and marks beside the raws' },
          { value: 'read', words: 'Take ratings and marks from there' },
        ]}
        onSelect={(way) => (way === 'merge' ? onMerge() : onSidecars(way as 'read' | 'write'))}
      />
      {act('Take out', 'Take out of the shoot (Delete); kept in the trash for 30 days', onTakeOut)}
      {act('Clear', 'Escape', onClear)}
    </Rove>
  );
}
