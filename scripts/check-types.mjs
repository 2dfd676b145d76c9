// Each room has its own compiler settings, so that the compiler itself keeps the page's and Node's types out of core.
import { run } from "./setup.mjs";

const projects = ["core", "core/tsconfig.test.json", "contract", "server", "web", "cli", "demo", "e2e"];
for (const project of projects) run("npx", ["--no-install", "tsc", "-p", project]);
