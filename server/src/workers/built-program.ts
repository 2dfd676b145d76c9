import path from "node:path";
import { fileURLToPath } from "node:url";

const ROOT = fileURLToPath(new URL("../../..", import.meta.url));

/**
 * The built form of a program or thread whose TypeScript source is named. scripts/node-programs.mjs
 * lists the sources and builds them.
 */
export function builtProgram(source: URL): string {
  const place = path.relative(ROOT, fileURLToPath(source));
  return path.join(ROOT, "dist", place.replace(/\.ts$/, ".js"));
}
