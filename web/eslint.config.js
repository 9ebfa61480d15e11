import jsxA11y from "eslint-plugin-jsx-a11y";
import reactHooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: ["dist", "src/shared/api/schema.ts"] },
  ...tseslint.configs.recommendedTypeChecked,
  { languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } } },
  jsxA11y.flatConfigs.recommended,
  { plugins: { "react-hooks": reactHooks }, rules: reactHooks.configs.recommended.rules },
  {
    rules: {
      // Where a dialog or a step begins, the focus goes to what comes first, so that keys can go on.
      "jsx-a11y/no-autofocus": "off",
      // Our own components have roles that are not ARIA's.
      "jsx-a11y/aria-role": ["error", { ignoreNonDOM: true }],
      "no-restricted-imports": [
        "error",
        { patterns: [{ group: ["@/features/*/*"], message: "Features meet only at their index.ts." }] },
      ],
    },
  },
);
