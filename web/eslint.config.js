import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

/** What the files of a folder may not import: arrows run from app to features to ui and api. */
const not = (files, patterns) => ({ files, rules: { "no-restricted-imports": ["error", { patterns: patterns.map((p) => ({ regex: p, message: "arrows run from app to features to ui and api" })) }] } });

export default tseslint.config(
  { ignores: ["src/api/*.gen.ts", "dist"] },
  ...tseslint.configs.strict,
  hooks.configs.flat["recommended-latest"] ?? hooks.configs["recommended-latest"],
  not(["src/features/**"], ["/app/"]),
  not(["src/ui/**"], ["/app/", "/features/"]),
  not(["src/api/**"], ["/app/", "/features/"]),
);
