/** An error whose message is meant for the person at the screen. */
export class PlainError extends Error {}
