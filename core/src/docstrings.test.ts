import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { fileURLToPath } from "node:url";
import ts from "typescript";
import { expect, it } from "vitest";
import { present } from "./presence/index.ts";

const ROOT = fileURLToPath(new URL("../..", import.meta.url));

/** The exported functions of a source file that no comment introduces. */
function undocumented(file: string): string[] {
  const source = ts.createSourceFile(file, readFileSync(file, "utf8"), ts.ScriptTarget.Latest, true);
  return source.statements.flatMap((statement) => {
    const isExported =
      ts.canHaveModifiers(statement) &&
      ts.getModifiers(statement)?.some(({ kind }) => kind === ts.SyntaxKind.ExportKeyword);
    if (!isExported || ts.getJSDocCommentsAndTags(statement).length > 0) return [];
    if (ts.isFunctionDeclaration(statement)) return [present(statement.name).text];
    if (!ts.isVariableStatement(statement)) return [];
    return statement.declarationList.declarations
      .filter(({ initializer }) => initializer && ts.isArrowFunction(initializer))
      .map(({ name }) => name.getText());
  });
}

it.each(["core/src", "contract/src"])("every exported function of %s says what it does", (place) => {
  const folder = path.join(ROOT, place);
  const files = readdirSync(folder, { recursive: true, encoding: "utf8" }).filter(
    (name) => name.endsWith(".ts") && !/\.test\.|\.d\.ts|^testing/.test(name),
  );
  expect(files.length).toBeGreaterThan(10);
  const found = files.flatMap((name) => undocumented(path.join(folder, name)).map((fn) => `${name}: ${fn}`));
  expect(found).toEqual([]);
});
