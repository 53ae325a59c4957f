let pulse: Int32Array | null = null;

/** Begins a task whose progress is watched through shared memory. */
export function feel(shared: SharedArrayBuffer): void {
  pulse = new Int32Array(shared);
  beat();
}

/** Says that the task at hand got on; whoever watches it waits anew. */
export function beat(): void {
  if (pulse) Atomics.add(pulse, 0, 1);
}
