/** The three channels and how they are drawn. */
export const channels = ['red', 'green', 'blue'] as const;
/** The same, light enough for words on the tray's grey (4.5:1). */
export const wordTints = { red: '#ea8b81', green: '#8cc285', blue: '#8eaae0' } as const;
export const tints = { red: '#d8675c', green: '#6fa868', blue: '#6b8fd0' } as const;
export const upper = (word: string): string => word[0]!.toUpperCase() + word.slice(1);
