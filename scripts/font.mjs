/** Writes the font of documents into a module, so that core draws without files: `node scripts/font.mjs`. */
import { readFileSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { at } from "./lib.mjs";

const require = createRequire(import.meta.url);
const file = require.resolve("@expo-google-fonts/jetbrains-mono/400Regular/JetBrainsMono_400Regular.ttf");
writeFileSync(
  at("core/src/formats/font-data.ts"),
  `/** JetBrains Mono Regular (SIL Open Font License 1.1), made by scripts/font.mjs. */\nexport const FONT_BASE64 =\n  "${readFileSync(file).toString("base64")}";\n`,
);
