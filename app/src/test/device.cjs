// What a browser has and the imitated page has not: a place where things are kept on the device, and a line between its windows.
const { BroadcastChannel } = require("node:worker_threads");

globalThis.structuredClone ??= (value) => JSON.parse(JSON.stringify(value));
globalThis.BroadcastChannel ??= class extends BroadcastChannel {
  constructor(name) {
    super(name);
    this.unref();
  }
};
require("fake-indexeddb/auto");
