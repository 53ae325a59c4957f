import { lazy } from 'react';

const tries = 3;
const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** A page fetched when it is first opened; asked for again where the server was away for a moment. */
export const lazyPage = (load: () => Promise<{ default: React.ComponentType }>): ReturnType<typeof lazy> =>
  lazy(async () => {
    for (let i = 1; ; i++)
      try {
        return await load();
      } catch (error) {
        if (i === tries) throw error;
        await pause(400 * i);
      }
  });
