import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

const ROOMS = ["core", "store", "formats", "sites", "server", "app", "ui", "cli", "demo", "practice", "bench", "e2e"];

/** Imports go one way. A room may import the rooms named, and itself; from those in `types` only types. */
const room = (name, allowed, types = []) => {
  const forbidden = ROOMS.filter(
    (other) =>
      other !== name &&
      !(["ui", "server"].includes(name) && other === "bench") &&
      !allowed.includes(other) &&
      !types.includes(other),
  );
  const patterns = [
    {
      regex: `^(\\.\\./)+(${forbidden.join("|")})/`,
      message: `${name} imports only ${[...allowed, name].join(", ")}.`,
    },
  ];
  if (types.length > 0)
    patterns.push({
      regex: `^(\\.\\./)+(${types.join("|")})/`,
      allowTypeImports: true,
      message: `${name} takes only types from ${types.join(", ")}.`,
    });
  if (name === "core")
    patterns.push(
      { regex: "^node:", message: "core runs in browsers too: no Node built-ins." },
      { regex: "^(react|next)", message: "core has no interface code." },
    );
  return {
    files: [`src/${name}/**/*.{ts,tsx}`],
    ignores: ["**/*.test.ts"],
    rules: { "@typescript-eslint/no-restricted-imports": ["error", { patterns }] },
  };
};

export default tseslint.config(
  { ignores: ["node_modules/", ".next/", "dist/", "data/", "next-env.d.ts", "test-results/"] },
  ...tseslint.configs.recommended,
  {
    rules: {
      "@typescript-eslint/no-non-null-assertion": "off",
      "@typescript-eslint/no-unused-vars": ["error", { argsIgnorePattern: "^_", varsIgnorePattern: "^_" }],
      "@typescript-eslint/consistent-type-imports": "off",
      "@typescript-eslint/no-unused-expressions": "off",
      "no-control-regex": "off",
      "no-misleading-character-class": "off",
    },
  },
  {
    files: ["src/ui/**/*.tsx", "src/ui/**/*.ts"],
    plugins: { "react-hooks": hooks },
    rules: { "react-hooks/rules-of-hooks": "error", "react-hooks/exhaustive-deps": "error" },
  },
  room("core", []),
  room("store", ["core"]),
  room("formats", ["core"], ["store"]),
  room("sites", ["core"]),
  room("server", ["core", "store", "formats", "sites", "demo"]),
  room("demo", ["core", "store"]),
  room("practice", ["core", "store", "demo"]),
  room("app", ["core", "server", "ui"], []),
  room("ui", ["core"], ["server", "store"]),
  room("cli", ["core", "server", "formats"]),
);
