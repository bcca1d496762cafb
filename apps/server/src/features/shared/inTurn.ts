/** Work of one kind one after another, in this process: the next finds most of it done by the one before. */
export function createTurns(): <T>(key: string, work: () => Promise<T>) => Promise<T> {
  const last = new Map<string, Promise<unknown>>();
  return async (key, work) => {
    const before = last.get(key) ?? Promise.resolve();
    const mine = before.then(work, work);
    last.set(key, mine);
    try {
      return await mine;
    } finally {
      if (last.get(key) === mine) last.delete(key);
    }
  };
}
