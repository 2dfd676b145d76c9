// What every command needs before it can begin, with nothing installed by hand: the right Node, the
// packages of the lock file, and where apt and root allow it the Debian programs. Plain Node,
// because it runs before anything is installed.
import { spawn, spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { availableParallelism } from "node:os";
import path from "node:path";
import { fileURLToPath } from "node:url";
import { ensureNodePrograms, newest } from "./node-programs.mjs";

export const ROOT = path.resolve(fileURLToPath(new URL("..", import.meta.url)));
process.chdir(ROOT);

/** Runs a command with its output in sight and ends the program where it fails. */
export function run(program, args, options = {}) {
  const { status, error } = spawnSync(program, args, { stdio: "inherit", ...options });
  if (error) throw error;
  if (status !== 0) process.exit(status ?? 1);
}

/**
 * Runs programs side by side, as many as there are cores, and prints what each said when it has
 * ended. Gives 0, or the first exit code that is not.
 */
export async function runTogether(commands) {
  const waiting = [...commands];
  let failed = 0;
  const work = async () => {
    for (let next = waiting.shift(); next; next = waiting.shift()) {
      const [title, program, args] = next;
      const child = spawn(program, args, { stdio: ["ignore", "pipe", "pipe"] });
      let said = "";
      for (const stream of [child.stdout, child.stderr]) stream.on("data", (text) => (said += text));
      const status = await new Promise((resolve, reject) => child.once("error", reject).once("close", resolve));
      console.log(`\n== ${title}\n${said.trimEnd()}`);
      if (status !== 0) failed ||= status ?? 1;
    }
  };
  await Promise.all(Array.from({ length: Math.min(4, availableParallelism()) }, work));
  return failed;
}

const has = (program) => spawnSync("sh", ["-c", `command -v ${program}`]).status === 0;

export function checkNode() {
  const [major, minor] = process.versions.node.split(".").map(Number);
  if (major > 20 || (major === 20 && minor >= 19)) return;
  console.error(`Humming Tide needs Node 20.19 or newer, but this is ${process.versions.node}.`);
  process.exit(1);
}

/**
 * Installs Debian programs that are missing; says what to do where that is not possible. Returns
 * whether all are there.
 */
export function ensurePrograms(wanted) {
  const missing = Object.entries(wanted).filter(([program]) => !has(program));
  if (missing.length === 0) return true;
  const packages = missing.map(([, name]) => name);
  if (has("apt-get") && process.getuid?.() === 0) {
    console.log(`Installing ${packages.join(", ")} …`);
    const environment = { ...process.env, DEBIAN_FRONTEND: "noninteractive" };
    spawnSync("apt-get", ["update", "-q"], { stdio: "inherit", env: environment });
    spawnSync("apt-get", ["install", "-y", "-q", "--no-install-recommends", ...packages], {
      stdio: "inherit",
      env: environment,
    });
    if (missing.every(([program]) => has(program))) return true;
  }
  console.warn(
    `Missing: ${packages.join(", ")}. Install them by hand (on Debian as root: apt-get install ${packages.join(" ")}).`,
  );
  return false;
}

/**
 * Installs the browser that the tests drive; says what to do where that is not possible. Returns
 * whether one is there.
 */
export function ensureBrowser() {
  if (process.env.CHROMIUM || has("chromium-headless-shell")) return true;
  return ensurePrograms({ "chromium-headless-shell": "chromium-headless-shell" }) || has("chromium");
}

/** Installs exactly what the lock file names, whenever that has changed since the last time. */
export function ensurePackages() {
  const stamp = path.join(ROOT, "node_modules", ".humming-tide-installed");
  const digest = createHash("sha256")
    .update(readFileSync("package-lock.json"))
    .update(process.versions.modules)
    .digest("hex");
  if (existsSync(stamp) && readFileSync(stamp, "utf8") === digest) return;
  // The database driver is compiled on machines for which no ready binary is to be had.
  ensurePrograms({ python3: "python3", make: "make", "g++": "g++" });
  console.log("Installing packages (two or three minutes the first time) …");
  // The runtime of the head finder would fetch its parts for graphics cards, which nobody needs.
  process.env.ONNXRUNTIME_NODE_INSTALL = "skip";
  run("npm", ["ci", "--no-audit", "--no-fund"]);
  writeFileSync(stamp, digest);
}

/**
 * Builds the page, and the programs that run on Node, where sources are newer than what was built.
 */
export async function ensureBuilt() {
  await ensureNodePrograms();
  // Built last.
  const built = path.join("web", "dist", "player", "player.js");
  const pages = [
    "web/index.html",
    "web/vite.config.ts",
    "web/client.html",
    "web/vite.client.config.ts",
    "web/vite.player.config.ts",
    "web/package.json",
  ];
  const sources = ["web/src", "core/src", "contract/src", ...pages, "package-lock.json"];
  if (existsSync(built) && newest(sources) <= statSync(built).mtimeMs) return;
  console.log("Building the page …");
  run("npm", ["run", "build", "--silent"]);
}
