/** Whether a press has begun that is not a click yet; what it began on must not be made anew under it. */
let pressing = false;
const waiting: (() => void)[] = [];

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
          if (!pressing) for (const act of waiting.splice(0)) act();
        }, 50);
      },
      true,
    );
}

/** Calls back at once, or as soon as what is being pressed is let go and its click has been heard. */
export function whenAtRest(act: () => void): void {
  if (pressing) waiting.push(act);
  else act();
}
