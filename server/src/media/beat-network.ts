import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { type BeatNetwork, readBeatNetwork } from "@humming-tide/core/music";

let network: BeatNetwork | null = null;

/** The beat network that ships with core, read on first use. Throws `beat-network-damaged`. */
export function shippedBeatNetwork(): BeatNetwork {
  const file = createRequire(import.meta.url).resolve("@humming-tide/core/beat-network.bin");
  return (network ??= readBeatNetwork(readFileSync(file)));
}
