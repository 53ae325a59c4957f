import { ChooseSheet } from '../kit/ChooseSheet.tsx';
import type { LookCard, Shoot } from '../types.ts';

const most = 6;

/** Asks which frames a look sheet shows before and after, and fetches it; one of each light is chosen at first. */
export function LookSheetFrames({
  look,
  kind,
  shoot,
  covers,
  onClose,
}: {
  look: LookCard;
  kind: 'pdf' | 'png';
  shoot: Shoot | undefined;
  covers: readonly number[];
  onClose: () => void;
}): React.JSX.Element {
  return (
    <ChooseSheet
      title={`Frames on the look sheet of ${look.name}`}
      most={most}
      of={(shoot?.frames ?? []).map((f) => ({ id: f.id, words: f.name, more: f.light }))}
      chosen={covers.slice(0, most)}
      act="Show"
      onClose={onClose}
      onChosen={(ids) => {
        window.location.assign(`/api/looks/${look.id}/sheet.${kind}${ids.length > 0 ? `?frames=${ids.join()}` : ''}`);
        onClose();
      }}
    />
  );
}
