import { clear, createStore, values } from "idb-keyval";

const store = createStore("gray-bench", "waiting");

/** What waits on this device to be sent, whatever list it is of. */
export const waitingHere = async (): Promise<unknown[]> =>
  (await values<{ one: unknown }>(store)).map(({ one }) => one);

export const forgetWaiting = (): Promise<void> => clear(store);
