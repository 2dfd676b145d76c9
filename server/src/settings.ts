import { homedir } from "node:os";
import path from "node:path";
import { parseArgs } from "node:util";
import { HummingTideError } from "@humming-tide/core";

export interface Settings {
  readonly dataFolder: string;
  readonly port: number;
  readonly host: string;
}

const DEFAULT_PORT = 4810;

/**
 * Reads --data, --port and --host, or HUMMING_TIDE_DATA, HUMMING_TIDE_PORT and HUMMING_TIDE_HOST where an option is not
 * given. The server listens on loopback unless told otherwise. Throws `settings` for anything it does not know.
 */
export function readSettings(args: readonly string[], environment: NodeJS.ProcessEnv): Settings {
  let values: { data?: string; port?: string; host?: string };
  try {
    ({ values } = parseArgs({
      args: [...args],
      options: { data: { type: "string" }, port: { type: "string" }, host: { type: "string" } },
    }));
  } catch (cause) {
    throw new HummingTideError(
      "settings",
      `${(cause as Error).message}. Known options: --data FOLDER --port NUMBER --host ADDRESS.`,
    );
  }
  const portText = values.port ?? environment["HUMMING_TIDE_PORT"] ?? String(DEFAULT_PORT);
  const port = Number(portText);
  if (!/^\d+$/.test(portText) || port > 65_535) {
    throw new HummingTideError("settings", `A port is a whole number from 0 to 65535, but this is "${portText}".`);
  }
  const dataFolder = values.data ?? environment["HUMMING_TIDE_DATA"] ?? path.join(homedir(), "Humming Tide");
  return {
    dataFolder: path.resolve(dataFolder),
    port,
    host: values.host ?? environment["HUMMING_TIDE_HOST"] ?? "127.0.0.1",
  };
}
