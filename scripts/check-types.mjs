// Each room has its own compiler settings, so that the compiler itself keeps the page's and Node's types out of core.
import { runTogether } from "./setup.mjs";

// Rooms with the same settings are one project: each would check core again. The longest first.
const projects = ["tsconfig.node.json", "e2e", "web", "core/tsconfig.test.json", "core", "contract"];
process.exitCode = await runTogether(
  projects.map((project) => [project, process.execPath, ["node_modules/typescript/bin/tsc", "-p", project]]),
);
