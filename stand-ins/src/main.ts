import path from "node:path";
import { parseArgs } from "node:util";
import { startStandIns } from "./stand-ins.ts";

/** Serves the stand-ins until it is told to stop. */
async function main(): Promise<void> {
  const { values } = parseArgs({ options: { port: { type: "string" }, folder: { type: "string" } } });
  const standIns = await startStandIns({
    port: Number(values.port ?? 4820),
    folder: path.resolve(values.folder ?? ".cache/stand-ins"),
  });
  console.log(`Stand-ins for payments, a video site and a disc drive: ${standIns.address}`);
  const stop = (): void => void standIns.close().then(() => process.exit(0));
  process.once("SIGINT", stop);
  process.once("SIGTERM", stop);
}

main().catch((error: unknown) => {
  console.error(
    (error as { code?: string }).code === "EADDRINUSE" ? "The port of the stand-ins is taken (--port)." : error,
  );
  process.exitCode = 1;
});
