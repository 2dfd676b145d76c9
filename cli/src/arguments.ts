import { parseArgs } from "node:util";
import { itemAt } from "@humming-tide/core/presence";
import { usageError } from "./usage-errors.ts";

export interface ParsedArguments<Option extends string> {
  readonly files: readonly string[];
  readonly options: Readonly<Partial<Record<Option, string>>>;
}

/**
 * Splits a command's arguments into files and text options. Every option takes a value and may be
 * given once.
 */
export function splitArguments<Option extends string>(
  args: readonly string[],
  known: readonly Option[],
): ParsedArguments<Option> {
  let parsed: { values: Record<string, unknown>; positionals: string[] };
  try {
    parsed = parseArgs({
      args: [...args],
      options: Object.fromEntries(known.map((name) => [name, { type: "string" as const, multiple: true as const }])),
      allowPositionals: true,
    });
  } catch (cause) {
    throw usageError("usage-unreadable", { why: itemAt((cause as Error).message.split("\n"), 0) }, { cause });
  }
  const options: Partial<Record<Option, string>> = {};
  for (const name of known) {
    const values = parsed.values[name] as string[] | undefined;
    if (!values) continue;
    if (values.length > 1) throw usageError("usage-option-repeated", { option: name, times: values.length });
    if (values[0] === "") throw usageError("usage-option-empty", { option: name });
    options[name] = itemAt(values, 0);
  }
  return { files: parsed.positionals, options };
}

export function required<Option extends string>({ options }: ParsedArguments<Option>, name: Option): string {
  const value = options[name];
  if (value === undefined) throw usageError("usage-option-missing", { option: name });
  return value;
}

/**
 * The files of a command that takes exactly as many as `names` has: `filesOf("pack", parsed,
 * ["SHOW", "FILE"])`.
 */
export function filesOf<const Names extends readonly string[]>(
  command: string,
  { files }: { readonly files: readonly string[] },
  names: Names,
): { readonly [Key in keyof Names]: string } {
  if (files.length !== names.length || files.includes("")) {
    const wanted = names.length === 1 ? `one ${names[0]}` : names.map((name) => `a ${name}`).join(" and ");
    throw usageError("usage-files", { command, wanted, given: files.length });
  }
  return files as unknown as { readonly [Key in keyof Names]: string };
}
