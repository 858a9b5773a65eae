const tseslint = require("typescript-eslint");
const prettier = require("eslint-config-prettier");
const hooks = require("eslint-plugin-react-hooks");

/** Dependencies point one way: core <- contract <- demo, server and client. */
const mayImport = (files, forbidden, why) => ({
  files,
  rules: {
    "no-restricted-imports": ["error", { patterns: forbidden.map((group) => ({ group: [group], message: why })) }],
  },
});

module.exports = tseslint.config(
  {
    ignores: [
      "**/node_modules/**",
      "**/dist/**",
      "**/dist.new/**",
      ".cache/**",
      ".data/**",
      "test-results/**",
      "playwright-report/**",
    ],
  },
  ...tseslint.configs.recommended,
  {
    files: ["**/*.{ts,tsx}"],
    rules: {
      "@typescript-eslint/no-unused-vars": [
        "error",
        { argsIgnorePattern: "^_", varsIgnorePattern: "^_", ignoreRestSiblings: true },
      ],
      "@typescript-eslint/consistent-type-imports": "error",
      "@typescript-eslint/no-empty-object-type": "off",
      "max-lines-per-function": ["error", { max: 95, skipBlankLines: true, skipComments: true }],
      complexity: ["error", 24],
      eqeqeq: "error",
      "no-console": "error",
    },
  },
  {
    files: ["client/**/*.{ts,tsx}"],
    plugins: { "react-hooks": hooks },
    rules: { "react-hooks/rules-of-hooks": "error", "react-hooks/exhaustive-deps": "error" },
  },
  { files: ["**/*.{js,cjs}"], rules: { "@typescript-eslint/no-require-imports": "off" } },
  { files: ["**/tests/**", "e2e/**", "bench/**"], rules: { "max-lines-per-function": "off", "no-console": "off" } },
  mayImport(["core/src/**"], ["@winter-bead/*", "zod", "react*", "koa*", "typeorm"], "The core stands alone."),
  mayImport(
    ["contract/src/**"],
    ["@winter-bead/demo*", "@winter-bead/server*", "@winter-bead/client*", "react*", "koa*", "typeorm"],
    "The contract knows the core alone.",
  ),
  mayImport(["devices/src/**"], ["@winter-bead/*", "react*", "koa*", "typeorm"], "A stand-in knows nothing of us."),
  mayImport(
    ["demo/src/**", "client/**"],
    ["@winter-bead/server*", "koa*", "typeorm", "**/server/**"],
    "Nothing reaches into the server.",
  ),
  mayImport(
    ["server/src/**"],
    ["@winter-bead/client*", "react*", "**/client/**"],
    "The server knows nothing of the client.",
  ),
  prettier,
);
