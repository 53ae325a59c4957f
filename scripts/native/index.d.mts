/** The C of a module of Node with all kernels, from the text that `asc --textFile` writes. */
export function nativeSource(text: string): string;
/** Compiles the kernels' text into a module of Node; says why there is none, or null. */
export function compileNative(text: string, out: string): Promise<string | null>;
