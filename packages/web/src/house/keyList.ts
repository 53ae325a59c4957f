/** Every shortcut, by where it acts. `letter`: a single letter, digit or sign, which can be switched off. */
export const keyList: { where: string; keys: { press: string; does: string; letter?: boolean }[] }[] = [
  {
    where: 'Everywhere',
    keys: [
      { press: '?', does: 'This page', letter: true },
      { press: 'Tab', does: 'To the next control; inside a bar, a grid or the chain, arrows go on' },
      { press: 'Escape', does: 'Closes what is open; leaves what is being picked; clears what is chosen' },
    ],
  },
  {
    where: 'Controls',
    keys: [
      { press: '← → ↑ ↓', does: 'Nudge; with Shift finer, with Alt coarser' },
      { press: 'Ctrl ← →', does: 'To the next number of a row; ↑ ↓ to the next row of a table' },
      { press: 'Enter', does: 'Type a value' },
      { press: 'Delete', does: 'Put back' },
      { press: 'Home  End', does: 'To the least, to the most' },
    ],
  },
  {
    where: 'A picture (Bench and Ground)',
    keys: [
      { press: '1  2  3  4', does: 'Fit, 100 %, 200 %, fill', letter: true },
      { press: '+  −', does: 'Nearer, further', letter: true },
      { press: 'O, held', does: 'The picture before', letter: true },
      { press: 'Z', does: 'Zones 0 to X over the picture', letter: true },
      { press: 'W', does: 'Wipe between before and after; Shift W turns it', letter: true },
      { press: 'B', does: 'Before and after beside each other', letter: true },
      { press: 'arrows, with the picture focused', does: 'Pan, or move the wipe or the aim; Shift goes further' },
      { press: 'Enter, with the picture focused', does: 'Pick, or pin, at the aim; a second Enter ends a line' },
      { press: 'Space, held', does: 'Pan with the pointer' },
    ],
  },
  {
    where: 'Contact sheet: the frame the keys stand on, or what is chosen',
    keys: [
      { press: '0  1  2  3  4  5', does: 'Rate; 0 takes the rating off', letter: true },
      { press: 'R', does: 'Reject, or take that back', letter: true },
      { press: 'M', does: 'The next mark', letter: true },
      { press: 'Ctrl Z', does: 'Takes back the last rating, mark or light' },
    ],
  },
  {
    where: 'Side by side: the frame in hand',
    keys: [
      { press: '0 to 5  R  M', does: 'Rate, reject, mark', letter: true },
      { press: 'K', does: 'Keep it as the best: rated over all that are shown', letter: true },
      { press: '← → ↑ ↓', does: 'Another of those shown; Page Up and Page Down those before and after' },
      { press: 'F  +  −', does: 'All of each or their own pixels; nearer, further: all at once', letter: true },
      { press: 'O, held', does: 'Groundwork only, on all at once', letter: true },
      { press: 'Ctrl Z', does: 'Takes back the last trim, rating or mark; Ctrl Shift Z redoes a trim' },
      { press: 'Enter', does: 'Open it on the Bench' },
    ],
  },
  {
    where: 'Swatch card',
    keys: [
      { press: '← → ↑ ↓', does: 'From cell to cell; Enter opens it on the Bench' },
      { press: 'F  S', does: 'Favour, strike out', letter: true },
      { press: '1  2  +  −', does: 'Whole, near, nearer, further: all cells at once', letter: true },
    ],
  },
  {
    where: 'Evenness',
    keys: [
      { press: 'N', does: 'To the next frame that stands out; Shift N to the one before', letter: true },
      { press: 'T', does: 'Take what is proposed; H half of it; L leave it and go on', letter: true },
    ],
  },
  {
    where: 'Bench',
    keys: [
      { press: 'Ctrl S', does: 'Save' },
      { press: 'Ctrl Z', does: 'Undo; Ctrl Shift Z or Ctrl Y redo' },
      { press: '← →, on the chain', does: 'From step to step; Alt moves the step' },
      { press: 'Space, on a step', does: 'Switch it off and on' },
      { press: 'F2, on a step', does: 'Rename it' },
      { press: 'Delete, on a step', does: 'Take it out' },
    ],
  },
  {
    where: 'Ground',
    keys: [
      { press: 'P', does: 'Pick something neutral', letter: true },
      { press: 'K', does: 'Show what clips', letter: true },
      { press: 'N  H', does: 'Repair: the next best source; the picture without repairs', letter: true },
      { press: 'T  R  N', does: 'Repair, dust: take the speck, refuse it, go on; Shift N back', letter: true },
      { press: 'Escape', does: 'Repair: stop one that takes long' },
      { press: ',  .', does: 'Repair: a smaller, a larger brush', letter: true },
      { press: 'D', does: 'Repair: another like the chosen one', letter: true },
      { press: 'Shift click, Alt click', does: 'Repair: both ends of a straight line; where the next one is taken from' },
      { press: 'Alt ← → ↑ ↓', does: 'Repair: moves the chosen one; with Shift its source' },
      { press: 'Delete', does: 'Repair: takes out the chosen one' },
      { press: 'Page Up  Page Down', does: 'To the frame before, to the next' },
      { press: 'Ctrl Z', does: 'Undo; Ctrl Shift Z or Ctrl Y redo' },
    ],
  },
  {
    where: 'Contact sheet',
    keys: [
      { press: '← → ↑ ↓', does: 'From frame to frame; with Shift the frames between are chosen' },
      { press: 'Space', does: 'Choose the frame, or not' },
      { press: 'Ctrl A', does: 'Choose all' },
      { press: 'Enter', does: 'Open on the bench' },
      { press: 'Delete', does: 'Take out' },
    ],
  },
];
