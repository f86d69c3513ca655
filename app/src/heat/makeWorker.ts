/** A worker of its own, so that a thumb on a slider never waits for a computation. */
export const makeWorker = (): Worker => new Worker(new URL("./trialWorker", import.meta.url));
