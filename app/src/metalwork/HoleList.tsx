import type { FaceHole, FaceWork } from "@gray-bench/core/metalwork/result";
import { cutText, originText } from "@gray-bench/core/metalwork/say";
import { asSeen, middleOf } from "@gray-bench/core/metalwork/shapes";
import { finishing, toolsOf } from "@gray-bench/core/metalwork/signs";
import { useMemo } from "react";
import { View } from "react-native";
import { choose } from "../kit/choice";
import { formatLength, keepTags } from "../kit/format";
import { useSettings } from "../kit/settings";
import { Table } from "../kit/table/Table";
import type { TableColumn } from "../kit/table/column";
import { Body, Mono, Small } from "../kit/Text";
import { VirtualList } from "../kit/VirtualList";
import { ToolSign } from "./ToolSign";

interface Row {
  hole: FaceHole;
  x: number;
  y: number;
  tool: string | null;
  order: number | null;
  sign: number;
  lack: string | undefined;
}

const ROW_PX = 56;

/** Every hole of a face in order of place; what is chosen here is chosen in the drawing. */
export function HoleList({ work, chosen, wide }: { work: FaceWork; chosen: number | undefined; wide: boolean }) {
  const settings = useSettings();
  const rows = useMemo((): Row[] => {
    const last = finishing(work);
    const order = toolsOf(work);
    const lacks = new Map(work.lacks.map((l) => [l.hole, l.why]));
    return work.holes.map((hole) => {
      const { x, y } = middleOf(asSeen(work, hole.cut));
      const done = last.get(hole.number);
      return {
        hole,
        x,
        y,
        tool: done?.tool ?? null,
        order: done?.order ?? null,
        sign: done ? order.indexOf(done.tool) : -1,
        lack: lacks.get(hole.number),
      };
    });
  }, [work]);
  const columns = useMemo(
    (): TableColumn<Row>[] => [
      { id: "number", label: "No.", width: 44, value: (r) => r.hole.number },
      { id: "what", label: "What", width: 116, value: (r) => cutText(r.hole.cut) },
      { id: "x", label: "x", width: 70, value: (r) => r.x, cell: (r) => formatLength(r.x, settings) },
      { id: "y", label: "y", width: 70, value: (r) => r.y, cell: (r) => formatLength(r.y, settings) },
      {
        id: "tool",
        label: "Tool",
        width: 66,
        value: (r) => r.tool ?? "none",
        cell: (r) => (
          <View className="h-8 flex-row items-center gap-1">
            <ToolSign nth={r.sign} size={16} />
            <Mono>{r.tool ?? "none"}</Mono>
          </View>
        ),
      },
      { id: "order", label: "Order", width: 54, value: (r) => r.order },
      { id: "from", label: "From", width: 190, value: (r) => originText(r.hole.from) },
      { id: "without", label: "Not made because", width: 200, value: (r) => r.lack ?? null, hidden: true },
    ],
    [settings],
  );
  const pick = (n: number): void => choose({ hole: n === chosen ? undefined : String(n), working: undefined });
  if (wide)
    return (
      <Table
        id="holes"
        label={`Holes of ${work.face}`}
        rows={rows}
        keyOf={(r) => String(r.hole.number)}
        columns={columns}
        rowTestID={(key) => `hole-${key}`}
        testID="hole-table"
        chosen={chosen === undefined ? undefined : String(chosen)}
        choose={(key) => choose({ hole: key, working: undefined })}
      />
    );
  return (
    <VirtualList
      count={rows.length}
      rowPx={ROW_PX}
      label={`Holes of ${work.face}`}
      testID="hole-list"
      keyOf={(i) => String(rows[i]!.hole.number)}
      chosen={rows.findIndex((r) => r.hole.number === chosen)}
      row={(i) => {
        const r = rows[i]!;
        return (
          <button
            type="button"
            data-testid={`hole-${r.hole.number}`}
            aria-current={r.hole.number === chosen ? "true" : undefined}
            onClick={() => pick(r.hole.number)}
            className="w-full border-0 bg-transparent p-0 text-left font-text"
            style={{ height: "100%", display: "block", cursor: "pointer" }}
          >
            <View
              className={`h-full flex-row items-center gap-3 border-b border-line px-3 ${r.hole.number === chosen ? "border-l-4 border-l-verdigris bg-tray" : ""}`}
            >
              <ToolSign nth={r.sign} />
              <Mono className="w-8">{r.hole.number}</Mono>
              <View className="min-w-0 flex-1">
                <Body numberOfLines={1}>{cutText(r.hole.cut)}</Body>
                <Small numberOfLines={1} className={r.lack ? "text-brick" : undefined}>
                  {r.lack ? `in no program: ${r.lack}` : keepTags(originText(r.hole.from))}
                </Small>
              </View>
              <Mono className="text-right">
                {formatLength(r.x, settings)}
                {"\n"}
                {formatLength(r.y, settings)}
              </Mono>
            </View>
          </button>
        );
      }}
    />
  );
}
