/**
 * What a question is answered, once. It is subscribed to until then: an answer nobody subscribes to is dropped when news of it
 * arrives on its way, and would come out as nothing.
 */
export async function askOnce<T>(asked: { unwrap(): Promise<T>; unsubscribe(): void }): Promise<T> {
  try {
    return await asked.unwrap();
  } finally {
    asked.unsubscribe();
  }
}
