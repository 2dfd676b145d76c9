import { homedir } from "node:os";
import path from "node:path";
import { parseArgs } from "node:util";
import { machineError } from "./machine-errors.ts";

export interface Settings {
  readonly dataFolder: string;
  readonly port: number;
  readonly host: string;
  /**
   * Of the server that clients reach; where it listens, and what it is called from outside (null:
   * by where it listens).
   */
  readonly clientPort: number;
  readonly clientHost: string;
  readonly clientAddress: string | null;
  /** Where the services for payments, publishing and discs answer; null: there are none. */
  readonly services: string | null;
}

const DEFAULT_PORT = 4810;
const LOOPBACK = "127.0.0.1";

const OPTIONS = {
  data: { type: "string" },
  port: { type: "string" },
  host: { type: "string" },
  "client-port": { type: "string" },
  "client-host": { type: "string" },
  "client-address": { type: "string" },
  services: { type: "string" },
} as const;
type Option = keyof typeof OPTIONS;
const KNOWN_OPTIONS = [
  "--data FOLDER",
  "--port NUMBER",
  "--host ADDRESS",
  "--client-port NUMBER",
  "--client-host ADDRESS",
  "--client-address URL",
  "--services URL",
];

/**
 * Reads --data, --port, --host, --client-port, --client-host, --client-address and --services, or
 * HUMMING_TIDE_DATA and so on where an option is not given. Both servers listen on loopback unless
 * told otherwise. The client's port is the one behind the studio's. Throws `option-unknown`,
 * `port-invalid` and `address-invalid`.
 */
export function readSettings(args: readonly string[], environment: NodeJS.ProcessEnv): Settings {
  let values: Partial<Record<Option, string>>;
  try {
    ({ values } = parseArgs({ args: [...args], options: OPTIONS }));
  } catch (cause) {
    throw machineError("option-unknown", { why: (cause as Error).message, known: KNOWN_OPTIONS });
  }
  const given = (option: Option): string | undefined =>
    values[option] ?? environment[`HUMMING_TIDE_${option.toUpperCase().replace("-", "_")}`];
  const port = portOf(given("port") ?? String(DEFAULT_PORT));
  const dataFolder = given("data") ?? path.join(homedir(), "Humming Tide");
  return {
    dataFolder: path.resolve(dataFolder),
    port,
    host: given("host") ?? LOOPBACK,
    clientPort: portOf(given("client-port") ?? String(port === 0 ? 0 : port + 1)),
    clientHost: given("client-host") ?? LOOPBACK,
    clientAddress: addressOf("client-address", given("client-address")),
    services: addressOf("services", given("services")),
  };
}

function portOf(text: string): number {
  const port = Number(text);
  if (/^\d+$/.test(text) && port <= 65_535) return port;
  throw machineError("port-invalid", { text });
}

function addressOf(option: Option, text: string | undefined): string | null {
  if (text === undefined) return null;
  if (/^https?:\/\/[^\s/?#@"'<>]+(\/[^\s?#"'<>]*)?$/i.test(text)) return text.replace(/\/+$/, "");
  throw machineError("address-invalid", { option, text });
}
