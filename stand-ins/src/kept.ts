import { mkdirSync, readFileSync, renameSync, writeFileSync } from "node:fs";
import path from "node:path";

/**
 * What a service remembers, by name, in one JSON file: it outlives a restart, as that of a real
 * service does.
 */
export class Kept<Item> {
  readonly #file: string;
  readonly #items: Map<string, Item>;

  constructor(file: string) {
    this.#file = file;
    mkdirSync(path.dirname(file), { recursive: true });
    this.#items = new Map(Object.entries(read(file) as Record<string, Item>));
  }

  get(name: string): Item | undefined {
    return this.#items.get(name);
  }

  find(wanted: (item: Item) => boolean): Item | undefined {
    return [...this.#items.values()].find(wanted);
  }

  all(): readonly Item[] {
    return [...this.#items.values()];
  }

  put(name: string, item: Item): void {
    this.#items.set(name, item);
    const unfinished = `${this.#file}.new`;
    writeFileSync(unfinished, JSON.stringify(Object.fromEntries(this.#items)));
    renameSync(unfinished, this.#file);
  }
}

function read(file: string): unknown {
  try {
    return JSON.parse(readFileSync(file, "utf8"));
  } catch (error) {
    if ((error as { code?: string }).code === "ENOENT") return {};
    throw error;
  }
}
