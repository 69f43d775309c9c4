import js from "@eslint/js";
import hooks from "eslint-plugin-react-hooks";
import globals from "globals";
import ts from "typescript-eslint";

export default ts.config(
  { ignores: ["dist", "src/engine/wasm", "src/api/schema.d.ts"] },
  js.configs.recommended,
  ...ts.configs.strict,
  {
    files: ["**/*.{ts,tsx}"],
    plugins: { "react-hooks": hooks },
    languageOptions: { globals: { ...globals.browser, ...globals.worker } },
    rules: {
      "react-hooks/rules-of-hooks": "error",
      "react-hooks/exhaustive-deps": "error",
      "@typescript-eslint/no-explicit-any": "error",
      "@typescript-eslint/no-non-null-assertion": "off",
    },
  },
);
