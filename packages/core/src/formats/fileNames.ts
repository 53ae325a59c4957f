/** What a pattern of file names can say, by its token: `{frame}_{look}-r{revision}`. */
export interface NameFacts {
  frame: string;
  shoot: string;
  look: string;
  revision: number | null;
  /** when the picture was taken, or when it is delivered: YYYY-MM-DD */
  date: string;
  /** its place among those delivered, from 1, and how many there are */
  counter: number;
  count: number;
  /** which dip of its raw it is, from 1 */
  dip: number;
}
export const nameTokens = {
  frame: 'the frame’s name',
  shoot: 'the shoot’s name',
  look: 'the look’s name',
  revision: 'its revision',
  date: 'when it was taken, or else today',
  counter: 'its place in the delivery',
  dip: 'which dip of its raw it is',
} as const;
export type NameToken = keyof typeof nameTokens;
export const plainPattern = '{frame}';
const longest = 200;

/** What is wrong with a pattern, in a sentence; null where nothing is. */
export function patternTrouble(pattern: string): string | null {
  if (pattern.trim() === '') return 'The file name is empty.';
  if (pattern.length > longest) return `The file name is over ${longest} letters.`;
  const unknown = [...pattern.matchAll(/\{([^{}]*)\}/g)].find(([, token]) => !Object.hasOwn(nameTokens, token!));
  if (unknown)
    return `There is no {${unknown[1]!}}; there are ${Object.keys(nameTokens)
      .map((t) => `{${t}}`)
      .join(', ')}.`;
  if (/[{}]/.test(pattern.replace(/\{[^{}]*\}/g, ''))) return 'A brace stands alone in the file name.';
  return null;
}
/** A name without its ending: what no file system refuses, and what never leaves its folder. */
export function nameFrom(pattern: string, facts: NameFacts): string {
  const said: Record<NameToken, string> = {
    frame: facts.frame,
    shoot: facts.shoot,
    look: facts.look,
    revision: facts.revision === null ? '0' : String(facts.revision),
    date: facts.date,
    counter: String(facts.counter).padStart(Math.max(3, String(facts.count).length), '0'),
    dip: String(facts.dip),
  };
  return safeStem(
    pattern.replace(/\{([^{}]*)\}/g, (whole, token: string) => (Object.hasOwn(said, token) ? said[token as NameToken] : whole)),
  );
}
/** Names that stand for devices where files may go (Win32 naming rules). */
const devices = /^(con|prn|aux|nul|com\d|lpt\d)(\.|$)/i;
/** Letters, digits, dots, hyphens, spaces and underlines, of at most 230 bytes in UTF-8, that neither hides nor goes up. */
export function safeStem(text: string): string {
  // 200 letters of four bytes would pass the 255 bytes a name may have
  const bytes = new TextEncoder();
  let stem = text.replace(/[^\p{L}\p{N}._ -]/gu, '_').replace(/^[. ]+|[. ]+$/g, '');
  while (bytes.encode(stem).length > 230) stem = [...stem].slice(0, -1).join('');
  if (stem === '') return 'picture';
  return devices.test(stem) ? `_${stem}` : stem;
}
