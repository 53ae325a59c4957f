/** What a frame can be marked with, and in what words. */
export const marks = [
  { mark: 'ask', words: 'ask the client' },
  { mark: 'retouch', words: 'to be retouched' },
  { mark: 'cover', words: 'for the cover' },
  { mark: 'web', words: 'for the web' },
] as const;
export type Mark = (typeof marks)[number]['mark'];
