import { BASELINE, INK, textWidth, type Scene, type SceneItem } from "./scene";

const escape = (text: string): string =>
  text.replace(/[&<>"]/g, (c) => ({ "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;" })[c]!);

const num = (n: number): string => String(Math.round(n * 1000) / 1000);

function element(item: SceneItem): string {
  const colour = item.colour ?? INK;
  const cls = `class="${item.layer}"`;
  const stroke =
    "width" in item && item.width > 0 ? `stroke="${colour}" stroke-width="${num(item.width)}"` : 'stroke="none"';
  const dash = "dash" in item && item.dash ? ` stroke-dasharray="${num(item.dash)}"` : "";
  switch (item.kind) {
    case "line":
      return `<line ${cls} x1="${num(item.x1)}" y1="${num(item.y1)}" x2="${num(item.x2)}" y2="${num(item.y2)}" ${stroke}${dash}/>`;
    case "rect":
      return `<rect ${cls} x="${num(item.x)}" y="${num(item.y)}" width="${num(item.w)}" height="${num(item.h)}" fill="${item.fill ?? "none"}" ${stroke}${dash}/>`;
    case "circle":
      return `<circle ${cls} cx="${num(item.x)}" cy="${num(item.y)}" r="${num(item.r)}" fill="${item.fill ?? "none"}" ${stroke}/>`;
    case "poly": {
      const points = item.points.map((p) => `${num(p.x)},${num(p.y)}`).join(" ");
      return `<${item.closed ? "polygon" : "polyline"} ${cls} points="${points}" fill="${item.fill ?? "none"}" ${stroke}${dash}/>`;
    }
    case "text": {
      if (item.text === "") return "";
      const turn = item.turn === 0 ? "" : ` transform="rotate(${-item.turn} ${num(item.x)} ${num(item.y)})"`;
      // The width is stated: where the font is not there, another one is fitted into the same place.
      return `<text ${cls} x="${num(item.x)}" y="${num(item.y + BASELINE * item.size)}" font-size="${num(item.size)}" text-anchor="${item.anchor}" textLength="${num(textWidth(item.text, item.size))}" lengthAdjust="spacingAndGlyphs" fill="${colour}"${turn}>${escape(item.text)}</text>`;
    }
  }
}

/** A scene as SVG 1.1, in millimetres. */
export const svgText = (scene: Scene): string =>
  [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${num(scene.w)}mm" height="${num(scene.h)}mm" viewBox="0 0 ${num(scene.w)} ${num(scene.h)}" font-family="'JetBrains Mono', monospace">`,
    `<title>${escape(scene.name)}</title>`,
    ...scene.items.map(element).filter((e) => e !== ""),
    "</svg>",
    "",
  ].join("\n");

export const toSvg = (scene: Scene): Uint8Array => new TextEncoder().encode(svgText(scene));
