import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: ["src/api/*.gen.ts", "dist"] },
  ...tseslint.configs.strict,
  hooks.configs.flat["recommended-latest"] ?? hooks.configs["recommended-latest"],
);
