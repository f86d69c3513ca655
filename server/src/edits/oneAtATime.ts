const last = new Map<string, Promise<unknown>>();

/** Runs what changes one job one after another, in the order asked for; other jobs do not wait. */
export async function oneAtATime<T>(job: string, work: () => Promise<T>): Promise<T> {
  const before = last.get(job) ?? Promise.resolve();
  const mine = before.then(work, work);
  last.set(job, mine);
  try {
    return await mine;
  } finally {
    if (last.get(job) === mine) last.delete(job);
  }
}
