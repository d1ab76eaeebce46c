import tseslint from "typescript-eslint";
import { zones } from "./eslint.zones.mjs";
import comments from "@eslint-community/eslint-plugin-eslint-comments";
import importX, { createNodeResolver } from "eslint-plugin-import-x";

export default tseslint.config(
  { ignores: [".build/**", "dist/**", "node_modules/**", "demo/**", "enredo-demo/**", "coverage/**"] },
  ...tseslint.configs.strict,
  { linterOptions: { reportUnusedDisableDirectives: "error" } },
  {
    files: ["**/*.ts"],
    plugins: { "import-x": importX },
    languageOptions: { parserOptions: { projectService: true } },
    settings: {
      "import-x/resolver-next": [createNodeResolver({ extensions: [".ts", ".js"], extensionAlias: { ".js": [".ts", ".js"] } })],
      "import-x/extensions": [".ts"],
    },
    rules: {
      "import-x/no-restricted-paths": ["error", { zones }],
      "@typescript-eslint/no-floating-promises": "error",
      "@typescript-eslint/consistent-type-imports": "error",
      "@typescript-eslint/no-non-null-assertion": "error",
      "@typescript-eslint/no-extraneous-class": "off",
      "@typescript-eslint/no-empty-function": "off",
      eqeqeq: "error",
    },
  },
  {
    // A function with more ways through it says in a comment why it is one: `// eslint-disable-next-line complexity -- reason`.
    files: ["src/**/*.ts"],
    plugins: { comments },
    rules: { complexity: ["error", 20], "comments/require-description": "error" },
  },
  {
    files: ["src/core/**/*.ts"],
    rules: {
      "no-console": "error",
      "no-restricted-properties": [
        "error",
        { object: "process", property: "exit" },
        { object: "process", property: "stdout" },
        { object: "process", property: "env" },
      ],
      "no-restricted-imports": ["error", { paths: ["@oclif/core", "picocolors", "cli-table3", "node:child_process"] }],
    },
  },
  {
    // Where packages are kept on a machine is said by its environment.
    files: ["src/core/project/open.ts"],
    rules: { "no-restricted-properties": "off" },
  },
  {
    // What starts the program is CommonJS, as the bundle that it loads.
    files: ["bin/*.js"],
    rules: { "@typescript-eslint/no-require-imports": "off" },
  },
  {
    // The programs that may be started are git and this one itself, and here are the two places that start them.
    files: ["src/core/files/git.ts", "src/core/syntax/code/child.ts", "src/core/syntax/code/process.ts", "src/core/syntax/code/serve.ts"],
    rules: {
      "no-restricted-imports": ["error", { paths: ["@oclif/core", "picocolors", "cli-table3"] }],
      // Git needs the path of the system and the person's own settings.
      "no-restricted-properties": "off",
    },
  },
);
