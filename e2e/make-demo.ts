import { spawnSync } from "node:child_process";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { ensureNodePrograms, nodeProgram } from "../scripts/node-programs.mjs";
import { DEMO_FOLDER, ROOT } from "./running-app.ts";

/**
 * Makes the demo once for all tests, exactly as `npm run demo` does; each test file works on a
 * copy.
 */
export default async function makeDemo(): Promise<() => Promise<void>> {
  await ensureNodePrograms();
  if (process.env[DEMO_FOLDER]) return () => Promise.resolve();
  const folder = await mkdtemp(path.join(tmpdir(), "humming-tide-e2e-demo-"));
  const { status } = spawnSync(process.execPath, [nodeProgram("demo/src/main.ts"), path.join(folder, "data")], {
    cwd: ROOT,
    stdio: "inherit",
  });
  if (status !== 0) throw new Error("The demo could not be made");
  process.env[DEMO_FOLDER] = folder;
  return () => rm(folder, { recursive: true, force: true });
}
