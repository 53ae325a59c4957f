/** An error with an HTTP status and a sentence for the person. */
export class ServiceError extends Error {
  readonly status: number;
  constructor(status: number, message: string) {
    super(message);
    this.status = status;
  }
}

/** The value, or a 404 naming what was looked for. */
export function found<T>(value: T | null | undefined, what: string): T {
  if (value === null || value === undefined) throw new ServiceError(404, `${what} does not exist (any more)`);
  return value;
}
