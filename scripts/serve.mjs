import { spawn } from "node:child_process";

/** Runs the server with the given options until it or this program is stopped. */
export function serve(args, environment = {}) {
  const child = spawn(process.execPath, ["--import", "tsx", "server/src/main.ts", ...args], {
    stdio: "inherit",
    env: { ...process.env, ...environment },
  });
  for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => child.kill(signal));
  child.on("exit", (code) => process.exit(code ?? 0));
}
