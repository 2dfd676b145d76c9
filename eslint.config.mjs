import reactHooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  {
    ignores: [
      "**/dist/**",
      "**/node_modules/**",
      ".cache/**",
      "**/*.mjs",
      "server/assembly/**",
      "**/*.cjs",
      "vitest.config.ts",
      "web/vite.*.ts",
    ],
  },
  ...tseslint.configs.recommendedTypeChecked,
  {
    languageOptions: {
      parserOptions: {
        // Few projects: each is a program of its own that reads core again.
        project: ["./tsconfig.node.json", "./core/tsconfig.test.json", "./{contract,web,e2e}/tsconfig.json"],
        tsconfigRootDir: import.meta.dirname,
      },
    },
    linterOptions: { reportUnusedDisableDirectives: "error" },
    rules: {
      "@typescript-eslint/switch-exhaustiveness-check": "error",
      "@typescript-eslint/consistent-type-imports": ["error", { disallowTypeAnnotations: false }],
      "@typescript-eslint/no-non-null-assertion": "off",
      "@typescript-eslint/no-unused-vars": ["error", { argsIgnorePattern: "^_" }],
      eqeqeq: "error",
    },
  },
  { files: ["server/**", "cli/**", "stand-ins/**"], rules: { "no-console": "off" } },
  { files: ["core/**", "contract/**", "web/**"], rules: { "no-console": "error" } },
  {
    files: ["core/src/**"],
    ignores: ["**/*.test.ts", "core/src/testing/**"],
    rules: {
      "no-restricted-properties": [
        "error",
        { object: "Math", property: "random" },
        { object: "Date", property: "now" },
      ],
      "no-restricted-globals": ["error", "process", "Buffer"],
    },
  },
  // supertest gives bodies as any; what they hold is what these tests check.
  { files: ["server/src/http/*.test.ts"], rules: { "@typescript-eslint/no-unsafe-assignment": "off" } },
  {
    files: ["web/**"],
    plugins: { "react-hooks": reactHooks },
    rules: { "react-hooks/rules-of-hooks": "error", "react-hooks/exhaustive-deps": "error" },
  },
);
