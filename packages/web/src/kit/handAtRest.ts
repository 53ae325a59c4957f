/** Whether a press has begun that is not a click yet; what it began on must not be made anew under it. */
let pressing = false;
const waiting = new Set<() => void>();
const begun = (): void => {
  pressing = true;
};
const ended = (): void => {
  if (!pressing) return;
  pressing = false;
  // the click comes after the release
  setTimeout(() => {
    if (pressing) return;
    const all = [...waiting];
    waiting.clear();
    for (const act of all) act();
  }, 50);
};
/** Begins to watch presses. */
export function watchHand(): void {
  for (const event of ['pointerdown', 'keydown'] as const) window.addEventListener(event, begun, true);
  for (const event of ['pointerup', 'pointercancel', 'keyup', 'blur', 'dragend'] as const) window.addEventListener(event, ended, true);
}

/** Calls back at once, or as soon as what is being pressed is let go and its click has been heard. */
export function whenAtRest(act: () => void): void {
  if (pressing) waiting.add(act);
  else act();
}
