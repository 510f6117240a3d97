import js from "@eslint/js";
import hooks from "eslint-plugin-react-hooks";
import ts from "typescript-eslint";

export default ts.config({ ignores: ["dist", "src/api/schema.gen.ts"] }, js.configs.recommended, ...ts.configs.strict, {
  files: ["src/**/*.{ts,tsx}"],
  plugins: { "react-hooks": hooks },
  rules: {
    // One literal may be longer: a class list or a sentence is not easier to read when it is cut up.
    "max-len": ["error", { code: 140, ignoreStrings: true, ignoreTemplateLiterals: true, ignoreRegExpLiterals: true, ignoreUrls: true }],
    // What is asked under a key and what is forgotten under it are written in one place: src/api/keys.ts.
    "no-restricted-syntax": [
      "error",
      { selector: "Property[key.name='queryKey'] > ArrayExpression > Literal:first-child", message: "Take the key from api/keys.ts." },
    ],
    "react-hooks/rules-of-hooks": "error",
    "react-hooks/exhaustive-deps": "error",
  },
});
