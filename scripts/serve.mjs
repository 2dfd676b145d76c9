import { spawn } from "node:child_process";
import { nodeProgram } from "./node-programs.mjs";

/**
 * Runs the server with the given options until it or this program is stopped; `beside` are programs
 * that run as long as it does.
 */
export function serve(args, environment = {}, beside = []) {
  const start = (program, options) =>
    spawn(process.execPath, ["--enable-source-maps", nodeProgram(program), ...options], {
      stdio: "inherit",
      env: { ...process.env, ...environment },
    });
  const others = beside.map(({ program, options }) => start(program, options));
  const child = start("server/src/main.ts", args);
  for (const signal of ["SIGINT", "SIGTERM"])
    process.on(signal, () => {
      for (const one of [child, ...others]) one.kill(signal);
    });
  child.on("exit", (code) => {
    for (const other of others) other.kill("SIGTERM");
    process.exit(code ?? 0);
  });
}
