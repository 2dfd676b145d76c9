#!/usr/bin/env node
// The command runs straight from the TypeScript sources: tsx translates them on the way in, so no build step is needed.
import { register } from "tsx/esm/api";

register();
const { main } = await import("../src/main.ts");
process.exitCode = await main(process.argv.slice(2));
