import type { AttachedPage } from "@gray-bench/contract/attachments";
import type { Box } from "@gray-bench/core/attachments/pages";
import { useEffect, useMemo } from "react";
import { G, Image, Path } from "react-native-svg";
import { Drawing } from "../kit/drawing/Drawing";
import { Marked } from "../kit/drawing/Marked";
import { useTokens } from "../kit/settings";
import { PAGE } from "../kit/tokens";
import { boxAt, grown } from "./found";

interface Props {
  size: { w: number; h: number };
  label: string;
  picture: string | null;
  page: AttachedPage | undefined;
  /** Boxes of what is chosen. */
  chosen: readonly Box[];
  show: Box | null | undefined;
  tap(box: Box | null): void;
  /** Pixels of a point at which it is seen. */
  zoomed(k: number): void;
}

/** A page as it is, what was found on it underlined, and what is chosen framed. Points, y down. */
export function PageDrawing({ size, label, picture, page, chosen, show, tap, zoomed }: Props) {
  const t = useTokens();
  const sheet = useMemo<Box>(() => ({ x: 0, y: 0, w: size.w, h: size.h }), [size.w, size.h]);
  const boxes = useMemo(
    () => (page ? [...page.found, ...page.unclear, ...page.strange].map((f) => f.box) : []),
    [page],
  );
  const known = page?.found.map((f) => under(f.box)).join("") ?? "";
  const doubtful = page ? [...page.unclear, ...page.strange].map((f) => under(f.box)).join("") : "";
  return (
    <Drawing
      sheet={sheet}
      show={show}
      label={label}
      plain
      tap={(x, y, k) => tap(boxAt(boxes, x, y, k))}
      overlay={(place) => <Zoomed k={place.k} told={zoomed} />}
    >
      <Path d={`M0 0h${size.w}v${size.h}h${-size.w}z`} fill={PAGE} stroke={t.line} vectorEffect="non-scaling-stroke" />
      {picture ? <Image href={picture} x={0} y={0} width={size.w} height={size.h} preserveAspectRatio="none" /> : null}
      <G>
        <Path d={known} fill="none" stroke={t.verdigris} strokeWidth={2} vectorEffect="non-scaling-stroke" />
        <Path
          d={doubtful}
          fill="none"
          stroke={t.ochre}
          strokeWidth={2}
          strokeDasharray="4 3"
          vectorEffect="non-scaling-stroke"
        />
      </G>
      {chosen.length > 0 ? <Marked boxes={chosen.map((b) => grown(b, 2))} /> : null}
    </Drawing>
  );
}

const under = ({ x, y, w, h }: Box): string => `M${x} ${y + h + 0.5}h${w}`;

/** Tells the zoom to whoever draws the page. */
function Zoomed({ k, told }: { k: number; told(k: number): void }) {
  useEffect(() => told(k), [k, told]);
  return null;
}
