/** Writes the font of documents into a module, so that core draws without files: `node scripts/font.mjs`. */
import { readFileSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { at } from "./lib.mjs";

const require = createRequire(import.meta.url);
const file = require.resolve("@expo-google-fonts/jetbrains-mono/400Regular/JetBrainsMono_400Regular.ttf");

/** Rules for putting signs together: a drawing shows what is written, and looking for them took most of writing a PDF. */
const LEFT_OUT = new Set(["GSUB", "GPOS", "GDEF"]);
const HEAD = 12;
const ENTRY = 16;
const round4 = (n) => (n + 3) & ~3;

/** A TrueType font without some of its tables. */
function without(font, names) {
  const count = font.readUInt16BE(4);
  const tables = Array.from({ length: count }, (_, i) => {
    const o = HEAD + ENTRY * i;
    const [from, length] = [font.readUInt32BE(o + 8), font.readUInt32BE(o + 12)];
    return {
      tag: font.toString("latin1", o, o + 4),
      sum: font.readUInt32BE(o + 4),
      data: font.subarray(from, from + length),
    };
  }).filter((t) => !names.has(t.tag));
  const n = tables.length;
  const power = 2 ** Math.floor(Math.log2(n));
  const out = Buffer.alloc(tables.reduce((sum, t) => sum + round4(t.data.length), HEAD + ENTRY * n));
  font.copy(out, 0, 0, 4);
  out.writeUInt16BE(n, 4);
  out.writeUInt16BE(16 * power, 6);
  out.writeUInt16BE(Math.log2(power), 8);
  out.writeUInt16BE(16 * n - 16 * power, 10);
  let next = HEAD + ENTRY * n;
  tables.forEach(({ tag, sum, data }, i) => {
    const o = HEAD + ENTRY * i;
    out.write(tag, o, "latin1");
    out.writeUInt32BE(sum, o + 4);
    out.writeUInt32BE(next, o + 8);
    out.writeUInt32BE(data.length, o + 12);
    data.copy(out, next);
    if (tag === "head") out.writeUInt32BE(0, next + 8);
    next += round4(data.length);
  });
  // The sum of the whole font, as its head wants it.
  let sum = 0;
  for (let i = 0; i < out.length; i += 4) sum = (sum + out.readUInt32BE(i)) >>> 0;
  const head = tables.findIndex((t) => t.tag === "head");
  out.writeUInt32BE((0xb1b0afba - sum) >>> 0, out.readUInt32BE(HEAD + ENTRY * head + 8) + 8);
  return out;
}

writeFileSync(
  at("core/src/formats/font-data.ts"),
  `/** JetBrains Mono Regular (SIL Open Font License 1.1) without its rules for putting signs together, made by scripts/font.mjs. */\nexport const FONT_BASE64 =\n  "${without(readFileSync(file), LEFT_OUT).toString("base64")}";\n`,
);
