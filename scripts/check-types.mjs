// Each room has its own compiler settings, so that the compiler itself keeps the page's and Node's types out of core.
import { runTogether } from "./setup.mjs";

const projects = ["core", "core/tsconfig.test.json", "contract", "server", "web", "cli", "demo", "stand-ins", "e2e"];
await runTogether(
  projects.map((project) => [project, process.execPath, ["node_modules/typescript/bin/tsc", "-p", project]]),
);
