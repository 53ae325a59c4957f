/** How the work stands: all kept; being kept or about to be; or kept here only, since the server does not take it now. */
export type SaveState = 'kept' | 'keeping' | 'waiting';

/** What became of one attempt. `again`: the server could not take it now. `refused`: it never will. */
export type Attempt = 'done' | 'again' | 'refused';

/**
 * Sends what is to be kept. From a page that is being left a request outlives it only when it is small (64 KB, Fetch
 * standard, keepalive): `leaving` returns false at once where it is not.
 */
export interface Send {
  (): Promise<Attempt>;
  leaving?: () => boolean;
}

export interface Saver {
  /** Asks for something to be kept when the hand has rested, or so soon; a newer wish of the same key takes the place of an older. */
  put(key: string, send: Send, afterMs?: number): void;
  /** Keeps all at once. True when nothing is left. */
  flush(): Promise<boolean>;
  /** Sends all at once from a page that is being left. True when each could be sent so; else the page should ask to stay. */
  leave(): boolean;
  state(): SaveState;
  /** Calls back whenever the state may have changed, until what it returns is called. */
  follow(listener: () => void): () => void;
}

interface Wish {
  send: Send;
  timer: ReturnType<typeof setTimeout> | undefined;
  /** attempts in a row that the server could not take */
  failed: number;
  /** the attempt under way */
  under: Promise<void> | null;
  /** a newer wish came during the attempt */
  newer: boolean;
}

/** A queue of things to keep: each waits for the hand to rest, is tried until it is taken, and is never forgotten on the way. */
export function openSaver({ restMs = 250, retryMs = 1000, mostRetryMs = 15000 } = {}): Saver {
  const wishes = new Map<string, Wish>(),
    listeners = new Set<() => void>();
  const tell = (): void => {
    for (const l of listeners) l();
  };
  const arm = (key: string, wish: Wish, ms: number): void => {
    clearTimeout(wish.timer);
    wish.timer = setTimeout(() => void attempt(key, wish), ms);
  };
  const attempt = (key: string, wish: Wish): Promise<void> => {
    if (wish.under) return wish.under;
    clearTimeout(wish.timer);
    wish.newer = false;
    wish.under = wish
      .send()
      .catch((): Attempt => 'again')
      .then((result) => {
        wish.under = null;
        if (result === 'again') {
          wish.failed++;
          arm(key, wish, Math.min(mostRetryMs, retryMs * 2 ** (wish.failed - 1)));
        } else {
          wish.failed = 0;
          if (wish.newer) arm(key, wish, restMs);
          else wishes.delete(key);
        }
        tell();
      });
    tell();
    return wish.under;
  };
  return {
    put(key, send, afterMs = restMs) {
      const wish = wishes.get(key);
      if (wish) {
        wish.send = send;
        wish.newer = true;
        if (!wish.under && wish.failed === 0) arm(key, wish, afterMs);
      } else {
        const fresh: Wish = { send, timer: undefined, failed: 0, under: null, newer: false };
        wishes.set(key, fresh);
        arm(key, fresh, afterMs);
      }
      tell();
    },
    async flush() {
      // what came during an attempt is sent in a second round
      for (let round = 0; round < 3 && wishes.size > 0; round++) await Promise.all([...wishes].map(([key, wish]) => attempt(key, wish)));
      return wishes.size === 0;
    },
    leave: () => [...wishes.values()].every((w) => w.failed === 0 && w.under === null && (w.send.leaving?.() ?? false)),
    state: () => (wishes.size === 0 ? 'kept' : [...wishes.values()].some((w) => w.failed > 0) ? 'waiting' : 'keeping'),
    follow(listener) {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
  };
}
