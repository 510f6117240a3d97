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
      // What shines through loses contrast by an amount that nobody looks up: text is set back by its color, which is held to WCAG.
      ...["Literal[value", "TemplateElement[value.raw"].map((text) => ({
        selector: `${text}=/(^|\\s)opacity-(?!0\\b|100\\b)\\d/]`,
        message: "Set text back with text-faint, not with opacity.",
      })),
    ],
    "react-hooks/rules-of-hooks": "error",
    "react-hooks/exhaustive-deps": "error",
  },
});
