import type { Colours } from "@gray-bench/core/wiring/landings";
import { isFallback, type WireRoute } from "@gray-bench/core/routes/result";
import { useMemo, useState, type ReactNode } from "react";
import { ToldLine } from "../edits/Told";
import type { Outcome } from "../queries/useEdits";
import { formatLength, formatSize } from "../kit/format";
import { useSettings } from "../kit/settings";
import { Table } from "../kit/table/Table";
import type { Pasted, TableColumn } from "../kit/table/column";
import { WireSwatch } from "../kit/WireSign";
import { endText } from "./ends";
import { ManyWires } from "./ManyWires";
import { PastePreview, PASTES } from "./PastePreview";

interface Props {
  job: string;
  wires: readonly WireRoute[];
  colours: Colours;
  chosen: string | undefined;
  choose(wire: string): void;
  /** What wires are searched and narrowed with. */
  tools: ReactNode;
}

const idOf = (w: WireRoute): string => w.id;

/** Every wire in a row of its own, for people who compare: many chosen at once are changed by one edit. */
export function WireTable({ job, wires, colours, chosen, choose, tools }: Props) {
  const settings = useSettings();
  const [pasted, setPasted] = useState<Pasted | null>(null);
  const [told, setTold] = useState<Outcome | null>(null);
  const columns = useMemo<TableColumn<WireRoute>[]>(
    () => [
      { id: "number", label: "Wire", width: 64, value: (w) => w.id },
      { id: "from", label: "From", width: 108, value: (w) => endText(w.fromRef) },
      { id: "to", label: "To", width: 108, value: (w) => endText(w.toRef) },
      {
        id: "colour",
        label: "Colour",
        width: 82,
        value: (w) => colours.get(w.id)?.value ?? null,
        cell: (w) => {
          const colour = colours.get(w.id)?.value ?? null;
          return (
            <span style={{ display: "flex", alignItems: "center", gap: 6, height: "100%" }}>
              <WireSwatch colour={colour} />
              {colour ?? "none"}
            </span>
          );
        },
      },
      {
        id: "length",
        label: "Length",
        width: 92,
        value: (w) => w.lengthMm,
        cell: (w) => (w.lengthMm === null ? "none" : formatLength(w.lengthMm, settings)),
      },
      {
        id: "size",
        label: "Size",
        width: 80,
        value: (w) => w.sizeMm2?.value ?? null,
        cell: (w) => (w.sizeMm2 ? formatSize(w.sizeMm2.value, settings) : "none"),
      },
      { id: "class", label: "Class", width: 76, value: (w) => w.class },
      { id: "net", label: "Net", width: 110, value: (w) => w.net },
      { id: "strand", label: "Strands", width: 84, value: (w) => w.strand },
      {
        id: "ends",
        label: "Ends",
        width: 150,
        value: (w) => `${w.endFrom ?? "no rule"}, ${w.endTo ?? "no rule"}`,
        hidden: true,
      },
      { id: "fallback", label: "Fallback", width: 84, value: (w) => (w.marks.some(isFallback) ? "fallback" : null) },
      { id: "marks", label: "Marks", width: 180, value: (w) => w.marks.join(" "), hidden: true },
    ],
    [colours, settings],
  );
  return (
    <>
      <ToldLine outcome={told} testID="table-told" />
      <Table
        id="wires"
        label="Wires"
        testID="wire-list"
        rowTestID={(key) => `wire-${key}`}
        rows={wires}
        columns={columns}
        keyOf={idOf}
        chosen={chosen}
        choose={choose}
        tools={tools}
        pastes={Object.keys(PASTES)}
        paste={setPasted}
        bar={(keys) => <ManyWires job={job} wires={keys} laid={setTold} />}
      />
      {pasted ? (
        <PastePreview
          job={job}
          pasted={pasted}
          wires={wires}
          colours={colours}
          close={() => setPasted(null)}
          laid={setTold}
        />
      ) : null}
    </>
  );
}
