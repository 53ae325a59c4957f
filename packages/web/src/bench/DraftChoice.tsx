import { Button } from '@chakra-ui/react';
import { DyeStrip } from '../kit/DyeStrip.tsx';
import { Nothing } from '../kit/Waiting.tsx';
import { TopBar } from '../kit/TopBar.tsx';
import type { Choice } from './useOpening.ts';

/** Asked when a revision is to be opened while a draft made from another one is under way. */
export function DraftChoice({ choice, onChosen }: { choice: Choice; onChosen: (which: 'draft' | 'asked') => void }): React.JSX.Element {
  const { draft, asked } = choice;
  return (
    <div className="page">
      <TopBar page={asked.name} title={asked.name} />
      <main>
        <Nothing
          title={`${asked.name} has a draft`}
          words={`It was made from revision ${draft.revision ?? 'none'}, and revision ${asked.revision} is asked for. A look has one draft: opening the revision puts the draft in the trash, where it is kept for 30 days.`}
        >
          <div className="choice-strips">
            <div>
              <Button size="sm" colorPalette="dye" onClick={() => onChosen('draft')}>
                Go on with the draft
              </Button>
            </div>
            <div>
              <DyeStrip strip={asked.strip} />
              <Button size="sm" variant="outline" onClick={() => onChosen('asked')}>
                Open revision {asked.revision}
              </Button>
            </div>
          </div>
        </Nothing>
      </main>
    </div>
  );
}
