// The programs that run on Node are built of the TypeScript sources: one file each, in dist/. They
// start in half the time that translating on the way in takes, and so do the server's threads.
import {
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  statSync,
  utimesSync,
  writeFileSync,
} from "node:fs";
import path from "node:path";
import { fileURLToPath, pathToFileURL } from "node:url";

const ROOT = fileURLToPath(new URL("..", import.meta.url));
const WORKSPACES = ["core", "contract", "server", "web", "cli", "demo", "stand-ins", "e2e"];

/** What is started by its path: programs, and the threads that the server starts. */
const SOURCES = [
  "cli/src/main.ts",
  "demo/src/bench/bench-beats.ts",
  "demo/src/bench/export-once.ts",
  "demo/src/bench/main.ts",
  "demo/src/bench/write-features.ts",
  "demo/src/main.ts",
  "demo/src/music/compose-worker.ts",
  "e2e/bench-intake.ts",
  "e2e/bench-listen.ts",
  "e2e/bench-page.ts",
  "e2e/bench-score.ts",
  "e2e/bench-shelf.ts",
  "server/src/background/run-task.ts",
  "server/src/check/check-worker.ts",
  "server/src/jobs/export-worker.ts",
  "server/src/main.ts",
  "server/src/testing/open-and-wait.ts",
  "server/src/workers/clip-watch-worker.ts",
  "server/src/workers/face-worker.ts",
  "server/src/workers/colour-tables-worker.ts",
  "server/src/workers/heic-worker.ts",
  "server/src/workers/listen-task.ts",
  "server/src/workers/speech-worker.ts",
  "stand-ins/src/main.ts",
];

/** Written after every build, with the time at which it began. */
const STAMP = path.join(ROOT, "dist", "built");

/** The built program of a source, which is named from the root of the repository. */
export const nodeProgram = (source) => path.join(ROOT, "dist", source.replace(/\.ts$/, ".js"));

/**
 * Builds the programs where a source is newer than they are, in about a second. Whoever runs or
 * builds them at the same time finds whole files.
 */
export async function ensureNodePrograms() {
  const isNew = isFile(STAMP) && newest(watched()) <= statSync(STAMP).mtimeMs;
  if (!isNew) await buildAll();
}

async function buildAll() {
  const beganAt = new Date();
  const { build } = await import("esbuild");
  const { outputFiles } = await build({
    absWorkingDir: ROOT,
    entryPoints: SOURCES,
    outdir: "dist",
    outbase: ".",
    write: false,
    bundle: true,
    format: "esm",
    platform: "node",
    target: "node20",
    sourcemap: "linked",
    logLevel: "warning",
    external: sharedPackages(),
    plugins: [keepSourcePlaces],
  });
  for (const { path: place, contents } of outputFiles) {
    if (isWritten(place, contents)) continue;
    mkdirSync(path.dirname(place), { recursive: true });
    const unfinished = `${place}.${process.pid}`;
    writeFileSync(unfinished, contents);
    renameSync(unfinished, place);
  }
  writeFileSync(STAMP, "");
  utimesSync(STAMP, beganAt, beganAt);
}

const watched = () => ["package-lock.json", "scripts/node-programs.mjs", ...WORKSPACES.map(sourcesOf)];
const sourcesOf = (workspace) => (workspace === "e2e" ? workspace : path.join(workspace, "src"));

/** When the newest of files and folders changed, in milliseconds since 1970. */
export function newest(places) {
  const times = places.map((place) => {
    const full = path.resolve(ROOT, place);
    const facts = statSync(full);
    if (!facts.isDirectory()) return facts.mtimeMs;
    return Math.max(facts.mtimeMs, newest(readdirSync(full).map((name) => path.join(full, name))));
  });
  return Math.max(...times);
}

/**
 * In parts, so that this file itself, which the benches of the page bring along, is not changed.
 */
const META = ["import", "meta"].join(".");

/** Sources find what lies beside them by their own place, not by that of the built program. */
const keepSourcePlaces = {
  name: "keep-source-places",
  setup({ onLoad }) {
    onLoad({ filter: /\.m?[jt]s$/ }, ({ path: source }) => {
      if (source.includes("node_modules")) return undefined;
      const text = readFileSync(source, "utf8");
      if (!text.includes(`${META}.`)) return undefined;
      const contents = text
        .replaceAll(`${META}.url`, JSON.stringify(pathToFileURL(source).href))
        .replaceAll(`${META}.dirname`, JSON.stringify(path.dirname(source)));
      return { contents, loader: source.endsWith("ts") ? "ts" : "js" };
    });
  },
};

/**
 * Packages that are loaded from the root's node_modules. Where a workspace needs another version of
 * one than the root has, that version is only found from inside the workspace: it is built in.
 */
function sharedPackages() {
  const shared = WORKSPACES.flatMap((workspace) => {
    const { dependencies = {}, devDependencies = {} } = readJson(path.join(ROOT, workspace, "package.json"));
    return Object.keys({ ...dependencies, ...devDependencies }).filter(
      (name) => !name.startsWith("@humming-tide/") && !existsSync(path.join(ROOT, workspace, "node_modules", name)),
    );
  });
  return shared.flatMap((name) => [name, `${name}/*`]);
}

const readJson = (place) => JSON.parse(readFileSync(place, "utf8"));
const isFile = (place) => statSync(place, { throwIfNoEntry: false })?.isFile() ?? false;
const isWritten = (place, contents) => isFile(place) && Buffer.compare(readFileSync(place), contents) === 0;
