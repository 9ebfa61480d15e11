import reactHooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: ["dist", "src/shared/api/schema.ts"] },
  ...tseslint.configs.recommended,
  { plugins: { "react-hooks": reactHooks }, rules: reactHooks.configs.recommended.rules },
  {
    rules: {
      "no-restricted-imports": [
        "error",
        { patterns: [{ group: ["@/features/*/*"], message: "Features meet only at their index.ts." }] },
      ],
    },
  },
);
