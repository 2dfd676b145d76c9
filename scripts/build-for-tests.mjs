// Tests start programs and threads as they are built: before the first one, what is old is built
// again.
export { ensureNodePrograms as setup } from "./node-programs.mjs";
