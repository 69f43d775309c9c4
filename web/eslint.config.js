import js from "@eslint/js";
import hooks from "eslint-plugin-react-hooks";
import globals from "globals";
import ts from "typescript-eslint";

/** The rooms of src/, each with those it may import from: arrows point one way. Screens know every room, and no other screen. */
const ROOMS = {
  generated: [],
  model: ["generated"],
  api: ["generated", "model"],
  engine: ["generated", "model", "api"],
  ui: ["model"],
  plot: ["generated", "model", "engine", "ui"],
  session: ["generated", "model", "api", "engine"],
  keys: ["model", "ui"],
  words: ["generated", "model", "engine", "session", "ui", "media"],
  curves: ["generated", "model", "api", "session", "plot", "ui"],
  draw: ["generated", "model", "engine", "session", "ui"],
  images: ["generated", "model", "api", "engine", "session", "ui"],
  media: ["generated", "model", "engine", "session", "plot", "ui", "images"],
};
const SCREENS = ["bench", "gestures", "grounds", "hand", "rack"];

const boundary = (room, allowed) => {
  const closed = [...Object.keys(ROOMS), ...SCREENS].filter((other) => other !== room && !allowed.includes(other));
  return {
    files: [`src/${room}/**/*.{ts,tsx}`],
    rules: {
      "no-restricted-imports": ["error", { patterns: [{ regex: `^(\\.\\./)+(${closed.join("|")})(/|$)`, message: `${room}/ may import from ${allowed.join(", ") || "no other room"} alone.` }] }],
    },
  };
};

export default ts.config(
  { ignores: ["dist", "src/engine/wasm", "src/api/schema.d.ts", "src/generated"] },
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
  ...Object.entries(ROOMS).map(([room, allowed]) => boundary(room, allowed)),
  ...SCREENS.map((screen) => boundary(screen, Object.keys(ROOMS))),
);
