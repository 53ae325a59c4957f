/** Lets go of an object URL, once what still reads it has come to an end. */
export const letGo = (url: string): void => void setTimeout(() => URL.revokeObjectURL(url), 10_000);
