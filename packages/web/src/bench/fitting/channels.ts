/** The three channels and how they are drawn. */
export const channels = ['red', 'green', 'blue'] as const;
export const tints = { red: '#d8675c', green: '#6fa868', blue: '#6b8fd0' } as const;
export const upper = (word: string): string => word[0]!.toUpperCase() + word.slice(1);
