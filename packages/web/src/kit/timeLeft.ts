/** Seconds as plain words. */
export function timeLeft(seconds: number | null): string {
  if (seconds === null) return '';
  if (seconds < 60) return `about ${Math.max(1, seconds)} s left`;
  if (seconds < 3600) return `about ${Math.round(seconds / 60)} min left`;
  return `about ${Math.floor(seconds / 3600)} h ${Math.round((seconds % 3600) / 60)} min left`;
}
