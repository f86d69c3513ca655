import type { Crossing, Design } from "@gray-bench/core/design/model";
import type { CrossingEdge, RoutesResult } from "@gray-bench/core/routes/result";
import { useMemo } from "react";
import { View } from "react-native";
import { Acts } from "../edits/Acts";
import { formatLength } from "../kit/format";
import { lengthsIn } from "../kit/quantity";
import { useSettings } from "../kit/settings";
import { Body, Head, Mono, Small } from "../kit/Text";
import { addCrossingAct, crossingActs } from "@gray-bench/core/routes/crossing-acts";

/** A crossing: from where to where, how long, and what can be done with it. */
export function CrossingDetails({
  job,
  crossing,
  result,
  design,
}: {
  job: string;
  crossing: Crossing;
  result: RoutesResult;
  design: Design;
}) {
  const settings = useSettings();
  // A tenth of a millimetre is more than a bundle keeps.
  const mm = (v: number): string => formatLength(Math.round(v * 10) / 10, settings);
  const acts = useMemo(() => {
    const lengths = lengthsIn(settings);
    return [...crossingActs(design, crossing, lengths), addCrossingAct(design, lengths)];
  }, [design, crossing, settings]);
  const edge = result.edges.find((e): e is CrossingEdge => e.kind === "crossing" && e.tag === crossing.tag);
  const end = (e: Crossing["from"]): string => e.duct ?? e.face ?? "?";
  return (
    <View testID="crossing-details" className="gap-2 p-3">
      <Head>
        Crossing <Mono className="font-monoStrong">{crossing.tag}</Mono>
      </Head>
      <Body>
        over a {crossing.kind}, from {end(crossing.from)} to {end(crossing.to)}
      </Body>
      {edge ? (
        <Body>
          {mm(edge.mm)} guided, and a loop of {mm(edge.loopMm)}
        </Body>
      ) : (
        <Small className="text-ochre">It joins nothing: one of its ends meets no duct.</Small>
      )}
      {edge?.swing ? (
        <Body testID="swing">
          {`Its door, hung on the ${edge.swing.side}${edge.swing.sideGuessed ? " (not stated: the nearer side)" : ""}, opens by ${edge.swing.openDeg}°. At ${edge.swing.atDeg}° the places where the bundle is held are ${mm(edge.swing.needMm)} apart; ${mm(edge.swing.guidedMm)} are guided between them, so that ${mm(Math.max(0, edge.swing.needMm - edge.swing.guidedMm))} of loop are needed.`}
        </Body>
      ) : null}
      {edge?.swing && edge.swing.guidedMm + edge.loopMm < edge.swing.needMm ? (
        <Body className="font-medium text-brick">
          {mm(edge.swing.needMm - edge.swing.guidedMm - edge.loopMm)} are missing: the door would pull the wires off.
        </Body>
      ) : null}
      {crossing.points.map((p, i) => (
        <Small key={i}>
          point {i + 1}: {[p.x, p.y, p.z].map((v) => formatLength(v, settings)).join(", ")}
        </Small>
      ))}
      <Acts job={job} acts={acts} label="Change this crossing" about={crossing.tag} />
    </View>
  );
}
