import { FIELDS } from "@gray-bench/core/tables/fields";
import type { Matching } from "@gray-bench/core/tables/matching";
import type { Preview, RowShown } from "@gray-bench/core/tables/preview";
import { View } from "react-native";
import { formatCount } from "../kit/format";
import { SeveritySign } from "../kit/Severity";
import { Head, Small } from "../kit/Text";

const CELL = "border border-line px-2 py-1 font-mono text-small";

/** The first rows of a table as they would be read; what is not understood is shown as it stands. */
export function FirstRows({ matching, preview }: { matching: Matching; preview: Preview }) {
  const fields = FIELDS[matching.kind].filter((f) => preview.fields[f.id]);
  return (
    <View className="gap-1" testID="first-rows">
      <Head>The first rows as they would be read</Head>
      {preview.left > 0 ? (
        <View className="flex-row items-center gap-1" testID="rows-left">
          <SeveritySign severity="check" />
          <Small className="text-ochre">
            {formatCount(preview.left)} {preview.left === 1 ? "row is" : "rows are"} left out in all
          </Small>
        </View>
      ) : null}
      <div style={{ overflowX: "auto" }} tabIndex={0} role="region" aria-label="The first rows as they would be read">
        <table className="border-collapse">
          <thead>
            <tr>
              <th className={`${CELL} text-right text-slate`}>line</th>
              {fields.map((f) => (
                <th key={f.id} className={`${CELL} text-left text-graphite`}>
                  {f.label}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {preview.rows.map((r) => (
              <RowCells key={r.line} row={r} fields={fields.map((f) => f.id)} />
            ))}
          </tbody>
        </table>
      </div>
    </View>
  );
}

function RowCells({ row, fields }: { row: RowShown; fields: readonly string[] }) {
  return (
    <tr data-testid={`row-${row.line}`}>
      <td className={`${CELL} text-right text-slate`}>{row.line}</td>
      {row.lacks === null ? (
        fields.map((id) => {
          const cell = row.cells[id];
          if (cell === undefined) return <td key={id} className={CELL} />;
          return "told" in cell ? (
            <td key={id} className={`${CELL} whitespace-nowrap text-graphite`}>
              {cell.told}
            </td>
          ) : (
            <td key={id} className={`${CELL} text-ochre`}>
              {cell.text}: not {cell.wanted}
            </td>
          );
        })
      ) : (
        <td className={`${CELL} text-ochre`} colSpan={fields.length}>
          left out: it lacks {row.lacks} (
          {Object.values(row.cells)
            .map((c) => c.text)
            .join(" | ")}
          )
        </td>
      )}
    </tr>
  );
}
