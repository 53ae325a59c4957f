import type { Browser } from 'playwright-core';

export interface Served {
  origin: string;
  end(signal?: NodeJS.Signals): Promise<void>;
}
export function launch(): Promise<Browser>;
export function serve(data: string, options?: readonly string[]): Promise<Served>;
