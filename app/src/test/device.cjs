// What a browser has and the imitated page has not: a place where things are kept on the device, and a line between its windows.
const { BroadcastChannel } = require("node:worker_threads");

globalThis.structuredClone ??= (value) => JSON.parse(JSON.stringify(value));
globalThis.BroadcastChannel ??= class extends BroadcastChannel {
  constructor(name) {
    super(name);
    this.unref();
  }
};
// Nothing is laid out here, so that nothing grows.
globalThis.ResizeObserver ??= class {
  observe() {}
  unobserve() {}
  disconnect() {}
};
require("fake-indexeddb/auto");

// The imitated page lays nothing out: whether something is shown cannot be told from its size.
jest.mock("tabbable", () => {
  const real = jest.requireActual("tabbable");
  const all = (ask) => (node, options) => ask(node, { ...options, displayCheck: "none" });
  return Object.fromEntries(Object.entries(real).map(([name, ask]) => [name, all(ask)]));
});
