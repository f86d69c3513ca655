/** A worker of its own, so that what is dragged never waits for a computation. */
export const makePlaceWorker = (): Worker => new Worker(new URL("./placeWorker", import.meta.url));
