/** Whether a press has begun that is not a click yet; what it began on must not be made anew under it. */
let pressing = false;
/** What is put off, and what else it waits for. */
let waiting: { act: () => void; busy: () => boolean }[] = [];

/** Begins to watch presses. */
export function watchHand(): void {
  for (const event of ['pointerdown', 'keydown']) window.addEventListener(event, () => (pressing = true), true);
  for (const event of ['pointerup', 'pointercancel', 'keyup', 'blur'])
    window.addEventListener(
      event,
      () => {
        pressing = false;
        // the click comes after the release
        setTimeout(() => {
          if (pressing) return;
          const ready = waiting.filter((w) => !w.busy());
          waiting = waiting.filter((w) => !ready.includes(w));
          for (const { act } of ready) act();
        }, 50);
      },
      true,
    );
}

/** Calls back at once, or as soon as what is being pressed is let go and its click has been heard, and nothing is `busy` any more. */
export function whenAtRest(act: () => void, busy: () => boolean = () => false): void {
  if (pressing || busy()) waiting.push({ act, busy });
  else act();
}
