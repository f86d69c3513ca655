import type { Face } from "../frame/face";
import { PANEL_EDITS } from "./edits";

export const face = {
  name: "panel",
  edits: PANEL_EDITS,
  files: { "legend.csv": "what stands on each face, by item: count, part, text, maker, tags" },
  filesEach: [
    {
      name: "layout-ENCLOSURE-FACE.pdf",
      like: /^layout-.+\.pdf$/,
      text: "a face to scale with figures from its datum, balloons and its legend",
    },
    { name: "layout-ENCLOSURE-FACE.svg", like: /^layout-.+\.svg$/, text: "the same drawing" },
    {
      name: "layout-ENCLOSURE-FACE.dxf",
      like: /^layout-.+\.dxf$/,
      text: "frames and tags at 1:1, a layer for ducts, rails and devices",
    },
  ],
} satisfies Face;
