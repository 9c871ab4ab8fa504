import { builtinEnvironments, type Environment } from "vitest/runtime";

declare global {
  // This module is loaded anew for each file; only what is global stays.
  var documentIsMade: boolean | undefined;
}

/** A document that all files of one process share: making one takes longer than most files. */
const environment: Environment = {
  name: "shared-document",
  viteEnvironment: "client",
  async setup(global, options) {
    if (!globalThis.documentIsMade) await builtinEnvironments["happy-dom"].setup(global, options);
    globalThis.documentIsMade = true;
    // What a test leaves behind is cleaned up after it (setup.ts).
    return { teardown() {} };
  },
};

export default environment;
