#!/usr/bin/env node
// Builds the command where a source is newer than what was built, and runs it.
import { pathToFileURL } from "node:url";
import { ensureNodePrograms, nodeProgram } from "../../scripts/node-programs.mjs";

await ensureNodePrograms();
process.setSourceMapsEnabled(true);
const { main } = await import(pathToFileURL(nodeProgram("cli/src/main.ts")).href);
process.exitCode = await main(process.argv.slice(2));
