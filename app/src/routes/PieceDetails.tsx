import type { Colours } from "@gray-bench/core/wiring/landings";
import { explain, type Context } from "@gray-bench/core/routes/explain";
import type { DuctFill, PieceEdge, RoutesResult } from "@gray-bench/core/routes/result";
import { wiresIn } from "@gray-bench/core/routes/way";
import { Link } from "expo-router";
import { useMemo } from "react";
import { View } from "react-native";
import { Acts } from "../edits/Acts";
import { barActs } from "@gray-bench/core/panel/bar-acts";
import { formatLength, formatPercent } from "../kit/format";
import { jobHref } from "../kit/links";
import { useSettings } from "../kit/settings";
import { Empty } from "../kit/States";
import { Body, Head, Mono, Small } from "../kit/Text";
import { WireSwatch } from "../kit/WireSign";
import { WorkingTable } from "../working/WorkingTable";
import { endText } from "./ends";

interface Props {
  job: string;
  result: RoutesResult;
  edge: number;
  context: Context;
  colours: Colours;
}

const MOST = 200;

/** A piece of duct: its fill with working, and what lies in it. */
export function PieceDetails({ job, result, edge, context, colours }: Props) {
  const settings = useSettings();
  const piece = result.edges[edge] as PieceEdge;
  const wires = useMemo(() => wiresIn(result, edge), [result, edge]);
  const acts = useMemo(() => barActs(context.design, "duct", piece.duct), [context.design, piece.duct]);
  const working = explain(result, { of: "fill", piece: piece.id }, context);
  return (
    <View testID="piece-details" className="gap-3 p-3">
      <Body>
        {formatLength(piece.mm, settings)} long, {piece.wires} wires,{" "}
        {piece.insideMm2 === 0 ? "fill not known" : `${formatPercent(piece.fillPercent)} full`}
        {piece.state === "over" ? ", over the limit" : piece.state === "watch" ? ", to be watched" : ""}
      </Body>
      <Siblings job={job} result={result} duct={result.ducts.find((d) => d.tag === piece.duct)!} chosen={edge} />
      {working ? <WorkingTable working={working} job={job} /> : null}
      <Acts job={job} acts={acts} label={`Change duct ${piece.duct}`} about={piece.duct} />
      <Head>In this piece</Head>
      {wires.length === 0 ? <Empty title="Empty" text="No wire lies in this piece." /> : null}
      <View role="list" testID="piece-wires">
        {wires.slice(0, MOST).map((w) => (
          <View key={w.id} role="listitem">
            <Link href={jobHref(job, "routes", { wire: w.id })} className="block border-t border-line">
              <View className="min-h-touch w-full flex-row items-center gap-2">
                <WireSwatch colour={colours.get(w.id)?.value ?? null} />
                <Mono className="w-glove text-harbour underline">{w.id}</Mono>
                <Mono className="flex-1" numberOfLines={1}>
                  {endText(w.fromRef)} to {endText(w.toRef)}
                </Mono>
              </View>
            </Link>
          </View>
        ))}
      </View>
      {wires.length > MOST ? <Small>and {wires.length - MOST} more</Small> : null}
    </View>
  );
}

function Siblings({
  job,
  result,
  duct,
  chosen,
}: {
  job: string;
  result: RoutesResult;
  duct: DuctFill;
  chosen: number;
}) {
  return (
    <View className="flex-row flex-wrap gap-x-3" role="list" aria-label={`Pieces of ${duct.tag}`}>
      {duct.pieces.map((p) => {
        const e = result.edges[p] as PieceEdge;
        return (
          <View key={p} role="listitem">
            <Link
              href={jobHref(job, "routes", { piece: e.id })}
              aria-current={p === chosen ? "true" : undefined}
              className={`block min-h-touch py-3 font-mono text-small underline ${p === chosen ? "text-graphite" : "text-harbour"}`}
            >
              {e.id} {formatPercent(e.fillPercent)}
            </Link>
          </View>
        );
      })}
    </View>
  );
}
