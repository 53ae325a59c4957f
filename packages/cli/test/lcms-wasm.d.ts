/** The few functions of LittleCMS (lcms-wasm) that the tests call. */
declare module 'lcms-wasm' {
  export function instantiate(): Promise<{
    cmsOpenProfileFromMem(data: Uint8Array, size: number): number;
    cmsCreate_sRGBProfile(): number;
    cmsCreateTransform(input: number, inputFormat: number, output: number, outputFormat: number, intent: number, flags: number): number;
    cmsDoTransform(transform: number, data: Float32Array, count: number): Float32Array;
  }>;
}
