/**
 * Plain text of what a DXF file writes with codes: `%%c` for ⌀, `\U+00B2` for ², and in long texts `\P` for a new line, `\f…;` for a
 * font, `{…}` around what it counts for. Codes that only say how a text looks are left out.
 * @returns its lines, without those that are empty
 */
export function plainLines(text: string, long: boolean): string[] {
  const signs = text
    .replace(/\\U\+([0-9A-Fa-f]{4})/g, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)))
    .replace(/%%(\d{3})/g, (_, code: string) => String.fromCharCode(Number(code)))
    .replace(/%%c/gi, "⌀")
    .replace(/%%d/gi, "°")
    .replace(/%%p/gi, "±")
    .replace(/%%%/g, "%")
    .replace(/%%[uok]/gi, "");
  const plain = long ? withoutFormat(signs) : signs;
  return plain
    .split("\n")
    .map((l) =>
      l
        .replace(/[\p{Cc}\p{Cf}]/gu, " ")
        .replace(/\s+/g, " ")
        .trim(),
    )
    .filter((l) => l !== "");
}

/** What stands behind a backslash up to a semicolon says how the text looks, but for a stack, which is two texts. */
function withoutFormat(text: string): string {
  let out = "";
  for (let i = 0; i < text.length; i++) {
    const c = text[i]!;
    if (c === "{" || c === "}") continue;
    if (c === "^" && /[IJM]/.test(text[i + 1] ?? "")) {
      out += text[++i] === "J" ? "\n" : " ";
      continue;
    }
    if (c !== "\\") {
      out += c;
      continue;
    }
    const code = text[++i] ?? "";
    if (code === "P" || code === "X" || code === "N") out += "\n";
    else if (code === "~") out += " ";
    else if (/[\\{}]/.test(code)) out += code;
    else if (/[ACFfHQTWpc]/.test(code)) {
      const end = text.indexOf(";", i);
      if (end < 0) break;
      i = end;
    } else if (code === "S") {
      const end = text.indexOf(";", i);
      if (end < 0) break;
      out += text.slice(i + 1, end).replace(/[#^]/g, "/");
      i = end;
    }
    // \L \l \O \o \K \k turn a line on and off.
  }
  return out;
}

/** Bytes of a DXF file as text: UTF-8, or else the code page that its header names. */
export function textOfDxf(bytes: Uint8Array): string {
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    const head = new TextDecoder("latin1").decode(bytes.subarray(0, 20_000));
    const [, page = "1252"] = /\$DWGCODEPAGE\s+3\s+ANSI_(\d{3,4})\s/i.exec(head) ?? [];
    try {
      return new TextDecoder(`windows-${page}`).decode(bytes);
    } catch {
      return new TextDecoder("windows-1252").decode(bytes);
    }
  }
}
