import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { fileURLToPath } from "node:url";
import { expect, it } from "vitest";
import { present } from "./presence/index.ts";

const ROOT = fileURLToPath(new URL("../..", import.meta.url));
const PLACES = ["core/src", "contract/src", "server/src", "web/src", "cli/src", "demo/src", "stand-ins/src"];

it("no exported type or class has a name that means two things", () => {
  const places = new Map<string, string[]>();
  for (const place of PLACES)
    for (const name of readdirSync(path.join(ROOT, place), { recursive: true, encoding: "utf8" })) {
      if (!/\.tsx?$/.test(name) || /\.test\./.test(name)) continue;
      const source = readFileSync(path.join(ROOT, place, name), "utf8");
      for (const [, type] of source.matchAll(/^export (?:interface|type|class|abstract class) ([A-Z]\w*)\b(?!\s*,)/gm))
        places.set(present(type), [...(places.get(present(type)) ?? []), `${place}/${name}`]);
    }
  expect(places.size).toBeGreaterThan(300);
  expect([...places].filter(([, files]) => files.length > 1)).toEqual([]);
});
