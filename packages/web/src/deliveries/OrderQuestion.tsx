import { Button } from '@chakra-ui/react';
import type { OrderQuestion } from '../types.ts';

/** What was answered, or is still to be asked. */
export type Answers = { conflict: 'ask' | 'rename' | 'replace'; doubtful: 'ask' | 'leave out' | 'deliver'; room: 'ask' | 'deliver' };
export const unasked: Answers = { conflict: 'ask', doubtful: 'ask', room: 'ask' };

/** What an order asks before anything is delivered: about files of the same names, raws that may not be whole, or a disk that may be too small. */
export function Question({
  asked,
  onAnswer,
  onBack,
}: {
  asked: OrderQuestion;
  onAnswer: (a: Partial<Answers>) => void;
  onBack: () => void;
}): React.JSX.Element {
  const names = asked.names.slice(0, 6).join(', '),
    more = asked.count - Math.min(6, asked.names.length);
  return (
    <div role="alert" className="order-question">
      <p>
        <b>{asked.message}.</b>
      </p>
      <p className="dim">
        {asked.question === 'room' ? 'What is done when it is full is kept, and it can go on when there is room.' : names}
        {more > 0 && ` and ${more} more`}
      </p>
      <div className="sheet-actions">
        <Button size="sm" variant="ghost" onClick={onBack}>
          {asked.question === 'doubtful' ? 'Back' : 'Another folder…'}
        </Button>
        {asked.question === 'conflict' ? (
          <>
            <Button size="sm" variant="outline" onClick={() => onAnswer({ conflict: 'replace' })}>
              Replace {asked.count === 1 ? 'it' : 'them'}
            </Button>
            <Button size="sm" colorPalette="dye" onClick={() => onAnswer({ conflict: 'rename' })}>
              Use other names
            </Button>
          </>
        ) : asked.question === 'room' ? (
          <Button size="sm" colorPalette="dye" onClick={() => onAnswer({ room: 'deliver' })}>
            Deliver all the same
          </Button>
        ) : (
          <>
            <Button size="sm" variant="outline" onClick={() => onAnswer({ doubtful: 'deliver' })}>
              Deliver {asked.count === 1 ? 'it' : 'them'} too
            </Button>
            <Button size="sm" colorPalette="dye" onClick={() => onAnswer({ doubtful: 'leave out' })}>
              Leave {asked.count === 1 ? 'it' : 'them'} out
            </Button>
          </>
        )}
      </div>
    </div>
  );
}
